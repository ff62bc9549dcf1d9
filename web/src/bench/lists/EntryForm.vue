<script setup lang="ts">
import { computed } from 'vue'

import { useLibrary } from '@/stores/library'
import { useLists, type Entry, type Kind } from '@/stores/lists'
import { words } from '@/words'

import RowField from '../RowField.vue'
import TickField from '../TickField.vue'
import CuttingTest from './CuttingTest.vue'
import { declared, GROUPS, labelOf, read, shown, type Field } from './fields'

/** One material, machine or purpose: every value of it, kept as it is typed. */
const props = defineProps<{ kind: Kind; row: Entry }>()
const w = words.lists
const lists = useLists()
const library = useLibrary()
const groups = computed(() => {
  const form = library.library.forms[props.kind] ?? []
  const found = (field: Field | string) => {
    if (typeof field !== 'string') return field
    const known = form.find((one) => one.name === field)
    return known && declared(known)
  }
  return GROUPS[props.kind].map((group) => ({ ...group, fields: group.fields.flatMap((one) => found(one) ?? []) }))
})
/** Something of a group is not as it is usually. */
const isSet = (fields: Field[]) =>
  fields.some(({ name }) => library.library.forms[props.kind]?.find((one) => one.name === name)?.default !== props.row[name])
const range = (field: Field) => library.library.ranges.find((one) => one.kind === props.kind && one.name === field.name)
const wrong = (field: Field) => {
  const limits = range(field)
  return limits ? w.between(limits.low, limits.high, w.units[field.unit!]) : w.needed
}
const formats = computed(() => library.library.formats.filter((format) => format.writes))
const valueOf = (field: Field) => props.row[field.name] as number | string | null
function take(field: Field, value: Entry[string]) {
  const said = typeof value === 'boolean' || value === null ? labelOf(field) : `${labelOf(field)} ${shown(field, value)}`
  // An empty sentence is none; an empty speed is left to the machine.
  const kept = value === null && field.control === 'text' ? '' : value
  void lists.set(props.kind, props.row.id, { [field.name]: kept }, w.did.set(props.row.name, said))
}
const hintOf = (field: Field) => (props.kind === 'stock' && field.name === 'outline' ? w.stockOutline : (field.hint ?? w.hints[field.name]))
/** What is chosen from, of a field that is not typed. */
function choicesOf(field: Field): [string, string][] | undefined {
  return (
    field.choices ??
    {
      machine: library.library.machines.map((one): [string, string] => [one.id, one.name]),
      ofMaterial: library.library.materials.map((one): [string, string] => [one.id, one.name]),
      tool: library.library.tools.map((tool): [string, string] => [tool, w.tools[tool] ?? tool]),
      format: formats.value.map((format): [string, string] => [format.id, format.name]),
      shape: Object.entries(w.shapes),
      carrier: Object.entries(w.carriers),
      edge: Object.entries(w.edges),
      grain: Object.entries(w.grains),
      marks: Object.entries(w.marks),
      material: [{ id: '', name: w.anyMaterial }, ...library.library.materials].map((one): [string, string] => [one.id, one.name]),
    }[field.control as string]
  )
}
</script>

<template>
  <form class="entry" @submit.prevent>
    <component
      :is="group.folds ? 'details' : 'fieldset'"
      v-for="group in groups"
      :key="group.name"
      :disabled="group.folds ? undefined : lists.busy"
      :open="group.folds ? isSet(group.fields) : undefined"
    >
      <component :is="group.folds ? 'summary' : 'legend'">{{ w.groups[group.name] }}</component>
      <template v-for="field in group.fields" :key="field.name">
        <TickField v-if="field.control === 'tick'" :label="labelOf(field)" :value="!!row[field.name]" @take="(v) => take(field, v)" />
        <label v-else-if="choicesOf(field)" class="choice">
          {{ labelOf(field) }}
          <select :value="row[field.name]" @change="take(field, ($event.target as HTMLSelectElement).value)">
            <option v-for="[value, said] in choicesOf(field)" :key="value" :value="value">{{ said }}</option>
          </select>
        </label>
        <label v-else-if="field.control === 'colour'" class="choice">
          {{ labelOf(field) }}
          <input type="color" :value="row.color" @change="take(field, ($event.target as HTMLInputElement).value)" />
        </label>
        <div v-else>
          <RowField
            :class="{ wide: field.control === 'text', long: ['says', 'outline'].includes(field.name) }"
            :label="labelOf(field)"
            :value="valueOf(field)"
            :show="(v: never) => shown(field, v)"
            :read="(text: string) => read(field, text, range(field))"
            :wrong="wrong(field)"
            :needed="!field.open"
            @take="(v: never) => take(field, v)"
          />
          <p v-if="hintOf(field)" class="small quiet">{{ hintOf(field) }}</p>
        </div>
      </template>
    </component>
    <CuttingTest v-if="kind === 'settings'" :row="row" />
  </form>
</template>

<style scoped>
.entry {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(320px, 1fr));
  gap: 16px;
  align-items: start;
  grid-auto-flow: dense;
}
fieldset,
details[open] {
  display: grid;
  gap: 10px;
  min-width: 0;
  margin: 0;
  padding: 12px 16px 16px;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--panel);
}
details {
  min-width: 0;
  padding: 10px 16px;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--panel);
}
summary {
  cursor: pointer;
}
legend,
summary {
  padding: 0 6px;
  font-weight: 600;
}
input[type='color'] {
  width: 48px;
  height: 32px;
  padding: 2px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
}
.long :deep(.row) {
  flex-direction: column;
  align-items: stretch;
  gap: 4px;
}
.long.long :deep(input) {
  width: 100%;
}
.wide :deep(input) {
  width: 18em;
  text-align: left;
}
</style>
