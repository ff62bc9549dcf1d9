<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'

import type { Parameter } from '@/api/types'
import { valueOf } from '@/composables/sentence'
import { useDraft } from '@/stores/draft'
import { useFaces } from '@/stores/faces'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import TypedField from '../TypedField.vue'
import FaceList from './FaceList.vue'
import { lettersOf, rowsOf, withMoved, type Moved } from './letters'

/** What a step of words is asked beside its sentence: its face, the forms and axes of that, single letters, and names
 * from a file. */
const draft = useDraft()
const faces = useFaces()
const w = words.lettering

const named = (name: string) => draft.operation!.parameters.find((one) => one.name === name)!
const value = (name: string) => valueOf(named(name), draft.values)
const set = (name: string, to: unknown) => draft.set(named(name) as Parameter, to)
const text = computed(() => String(draft.values.text ?? ''))
const capitals = computed(() => Number(draft.shown?.statistics.capitals_mm ?? 20))
const face = computed(() => faces.byId(String(value('face'))))

// Forms and axes are a face's own.
function take(id: string) {
  set('forms', undefined)
  set('axes', undefined)
  set('face', id)
}
const forms = computed(() => (value('forms') ?? []) as string[])
function setForm(tag: string, on: boolean) {
  const next = on ? [...forms.value, tag] : forms.value.filter((other) => other !== tag)
  set('forms', next.length ? next : undefined)
}
const axes = computed(() => (value('axes') ?? {}) as Record<string, number>)

const letters = computed(() =>
  (draft.shown?.spots.length
    ? draft.shown.spots.map((one) => ({ key: one.id, said: one.id.replace(/ \d+$/, '') }))
    : lettersOf(text.value)
  ).slice(0, 60),
)
const moved = computed(() => (value('letters') ?? {}) as Record<string, Moved>)
const picked = computed({ get: () => draft.spot, set: (key: string) => (draft.spot = key) })
const MOVES = [
  { name: 'along', step: 0.5, usual: 0 },
  { name: 'up', step: 0.5, usual: 0 },
  { name: 'turn', step: 1, usual: 0 },
  { name: 'shear', step: 1, usual: 0 },
  { name: 'wide', step: 0.05, usual: 1 },
  { name: 'high', step: 0.05, usual: 1 },
] as const
function move(name: keyof Moved, typed: string) {
  const found = Number(typed.replace(',', '.'))
  if (typed.trim() && Number.isFinite(found)) set('letters', withMoved(moved.value, picked.value, name, found))
}

const chooser = ref<HTMLInputElement | null>(null)
const columns = shallowRef<string[][]>([])
async function read(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  const rows = rowsOf(await file.text())
  columns.value = rows.length && rows[0].length > 1 ? rows : []
  if (!columns.value.length) setNames(rows.map((row) => row[0]))
}
function setNames(names: string[]) {
  set('each', true)
  set('text', names.filter(Boolean).join('\n'))
}
function takeColumn(typed: string) {
  const at = Number(typed)
  setNames(columns.value.slice(1).map((row) => row[at] ?? ''))
}
</script>

<template>
  <FaceList v-if="draft.choosing === 'face'" :value="String(value('face'))" :text="text" :capitals-mm="capitals" @set="take($event.id)" />
  <FoldPart
    v-if="face && (face.forms.length || face.axes.length)"
    :name="w.ofFace"
    :set="forms.length > 0 || Object.keys(axes).length > 0"
    @reset="take(face.id)"
  >
    <label v-for="axis in face.axes" :key="axis.tag" class="row">
      <span>{{ axis.name }}</span>
      <input
        type="range"
        :min="axis.low"
        :max="axis.high"
        step="any"
        :value="axes[axis.tag] ?? axis.usual"
        :aria-label="axis.name"
        @input="set('axes', { ...axes, [axis.tag]: Math.round(Number(($event.target as HTMLInputElement).value)) })"
      />
    </label>
    <label v-for="form in face.forms" :key="form.tag" class="row">
      <span>{{ form.words }}</span>
      <input type="checkbox" :checked="forms.includes(form.tag)" @change="setForm(form.tag, ($event.target as HTMLInputElement).checked)" />
    </label>
  </FoldPart>
  <FoldPart
    v-if="letters.length && !value('each')"
    :name="w.letters"
    :set="Object.keys(moved).length > 0"
    @reset="set('letters', undefined)"
  >
    <p class="small quiet">{{ w.lettersHint }}</p>
    <div class="letters" role="group" :aria-label="w.letters">
      <button
        v-for="one in letters"
        :key="one.key"
        :aria-pressed="picked === one.key"
        :class="{ moved: !!moved[one.key] }"
        @click="picked = one.key"
      >
        {{ one.said }}
      </button>
    </div>
    <template v-if="letters.some((one) => one.key === picked)">
      <label v-for="one in MOVES" :key="one.name" class="row">
        <span>{{ w.moves[one.name] }}</span>
        <TypedField
          type="number"
          :step="one.step"
          :value="String(moved[picked]?.[one.name] ?? one.usual)"
          @take="move(one.name, String($event))"
        />
      </label>
    </template>
  </FoldPart>
  <div class="row">
    <button class="link" @click="chooser?.click()">{{ w.fromFile }}</button>
    <input ref="chooser" class="unseen" type="file" accept=".txt,.csv,.tsv,text/*" tabindex="-1" :aria-label="w.fromFile" @change="read" />
    <select v-if="columns.length" :aria-label="w.column" @change="takeColumn(($event.target as HTMLSelectElement).value)">
      <option value="">{{ w.column }}</option>
      <option v-for="(heading, k) in columns[0]" :key="k" :value="k">{{ heading || k + 1 }}</option>
    </select>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  min-height: 32px;
}
.letters {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  margin-bottom: 6px;
}
.letters button {
  min-width: 28px;
  min-height: 28px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font-weight: 700;
  cursor: pointer;
}
.letters button[aria-pressed='true'] {
  border-color: var(--ink);
  box-shadow: inset 0 0 0 1px var(--ink);
}
.letters .moved {
  text-decoration: underline;
}
select {
  min-height: 28px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  font-weight: 700;
}
.link {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  text-decoration: underline;
  cursor: pointer;
}
</style>
