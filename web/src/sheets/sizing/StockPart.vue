<script setup lang="ts">
/** What is on stock, and what is not to be used: sections and series by name. */
import { computed } from 'vue'
import OfficeKept from '../../components/OfficeKept.vue'
import TextField from '../../components/TextField.vue'
import { useSizing } from '../../stores/sizing'
import { useWorkbench } from '../../stores/workbench'

const bench = useWorkbench()
const sizing = useSizing()
const known = computed(() => new Set(bench.catalogue.flatMap((f) => [f.name, ...f.sections.map((s) => s.name)])))
/** Names between commas; a sentence where one is none. Sizes cut or welded to order are the server's to judge. */
function read(text: string): { value: string[] } | string {
  const names = text
    .split(/[,;\n]+/)
    .map((name) => name.trim())
    .filter(Boolean)
  const wrong = names.find((name) => !known.value.has(name) && !/^(FL|RD|RECT|TEE|WI) \d/.test(name))
  return wrong === undefined ? { value: names } : `There is no section and no series “${wrong}”.`
}
const FIELDS = [
  [
    'stock',
    'On stock',
    'Sections, or whole series, of which groups are made that name none themselves; empty: every one',
  ],
  ['avoid', 'To be avoided', 'Sections, or whole series, that no group takes unless it names them itself'],
] as const
</script>

<template>
  <TextField
    v-for="[key, label, hint] in FIELDS"
    :key="key"
    :label="label"
    :path="`sizing.${key}`"
    :written="(sizing.plan?.[key] ?? []).join(', ')"
    :read="read"
    :hint="hint"
  />
  <OfficeKept kind="stock" />
</template>
