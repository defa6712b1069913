import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { api, type Schemas } from '../api/client'

/** Who is signed in, and everybody in the office. */
export const usePeople = defineStore('people', () => {
  const me = shallowRef<Schemas['Me'] | null>(null)
  const everybody = shallowRef<Schemas['PersonOut'][]>([])
  const administers = computed(() => me.value?.role === 'administrator')
  /** Whether projects may be made. */
  const designs = computed(() => administers.value || me.value?.role === 'designer')

  async function whoAmI(): Promise<void> {
    me.value = (await api.GET('/api/me')).data ?? null
  }

  async function load(): Promise<void> {
    everybody.value = (await api.GET('/api/people')).data ?? []
  }

  return { me, everybody, administers, designs, whoAmI, load }
})
