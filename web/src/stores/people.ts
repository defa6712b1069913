import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import type { Schemas } from '../api/client'
import { answer } from '../api/queries'

/** Who is signed in, and everybody in the office. */
export const usePeople = defineStore('people', () => {
  const me = shallowRef<Schemas['Me'] | null>(null)
  const everybody = shallowRef<Schemas['PersonOut'][]>([])
  const administers = computed(() => me.value?.role === 'administrator')
  /** Whether projects may be made. */
  const designs = computed(() => administers.value || me.value?.role === 'designer')

  async function whoAmI(): Promise<void> {
    me.value = await answer('/api/me', {}).catch(() => null)
  }

  async function load(): Promise<void> {
    everybody.value = await answer('/api/people', {}).catch(() => [])
  }

  return { me, everybody, administers, designs, whoAmI, load }
})
