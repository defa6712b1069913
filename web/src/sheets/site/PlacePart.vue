<script setup lang="ts">
/** Where the building stands, and what the climate service says of the place. */
import { ElButton, ElInput } from 'element-plus'
import { ref, watch } from 'vue'
import { api, type Schemas } from '../../api/client'
import NumberField from '../../components/NumberField.vue'
import { originOf } from '../../lib/siteValues'
import { useWorkbench } from '../../stores/workbench'

const props = defineProps<{ site: NonNullable<Schemas['Document']['site']> }>()
const bench = useWorkbench()
const named = ref(props.site.place)
watch(
  () => props.site.place,
  (place) => (named.value = place),
)
async function place() {
  const value = named.value.trim()
  if (value !== props.site.place) await bench.edit(`Place ${value}`, [{ path: 'site.place', value }])
}
const known = ref<string[]>([])
async function suggest() {
  const { data } = await api.GET('/api/climate/places', { params: { query: { name: named.value } } })
  known.value = data ?? []
}
const asking = ref(false)
const trouble = ref('')
/** Ask the climate service for the place's values; `altitude`: at the altitude that stands here. */
async function ask(altitude?: number) {
  asking.value = true
  trouble.value = ''
  try {
    const { data, error } = await api.GET('/api/climate', {
      params: { query: { place: props.site.place, ...(altitude !== undefined && { altitude }) } },
    })
    if (!data) {
      trouble.value = (error as Schemas['Problem'] | undefined)?.message ?? 'The climate service gave no answer.'
      return
    }
    const words = `${data.source}, ${data.altitude} m`
    await bench.edit(`Climate of ${data.place}`, [
      { path: 'site.place', value: data.place },
      { path: 'site.altitude', value: data.altitude },
      { path: 'site.ground_snow', value: data.ground_snow },
      { path: 'site.wind_speed', value: data.wind_speed },
      { path: 'site.terrain', value: data.terrain },
      {
        path: 'site.sources',
        value: {
          altitude: { value: data.altitude, words: data.source },
          ground_snow: { value: data.ground_snow, words },
          wind_speed: { value: data.wind_speed, words: data.source },
          terrain: { value: data.terrain, words: data.source },
        },
      },
    ])
  } finally {
    asking.value = false
  }
}
</script>

<template>
  <h4>Place</h4>
  <label class="field">
    <span>Name</span>
    <ElInput
      v-model="named"
      size="small"
      maxlength="80"
      list="places"
      aria-label="Place"
      @input="suggest"
      @change="place"
    />
    <datalist id="places"><option v-for="p in known" :key="p" :value="p" /></datalist>
  </label>
  <p class="buttons">
    <ElButton size="small" :disabled="asking || !site.place" @click="ask()">Ask the climate service</ElButton>
    <ElButton
      size="small"
      :disabled="asking || !site.place"
      title="Ground snow for the altitude that stands here"
      @click="ask(site.altitude)"
    >
      … at this altitude
    </ElButton>
  </p>
  <p v-if="trouble" class="note fails" role="alert">{{ trouble }}</p>
  <NumberField
    label="Altitude"
    path="site.altitude"
    kind="altitude"
    :value="site.altitude"
    :hint="`${originOf(site, 'altitude')}. Above 1000 m snow takes other ψ (EN 1990 table A1.1)`"
  />
  <NumberField
    label="Bearing, front to back"
    path="site.bearing"
    kind="angle"
    optional="not stated"
    :value="site.bearing"
    hint="Compass bearing of the way from the front to the back; it turns the drawing of the site alone"
  />
</template>
