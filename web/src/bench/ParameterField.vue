<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { Parameter } from '@/api/types'
import { mm, number, parseLength } from '@/composables/lengths'
import { valueOf } from '@/composables/sentence'
import { useDrawing } from '@/stores/drawing'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import TypedField from './TypedField.vue'
import FaceField from './lettering/FaceField.vue'
import WordsField from './lettering/WordsField.vue'

/** One parameter, in its place in a sentence or beside it: typed with its unit, or chosen where it stands. */
const props = defineProps<{ parameter: Parameter; values: Record<string, unknown> }>()
const emit = defineEmits<{ set: [value: unknown] }>()
const drawing = useDrawing()
const picks = usePicks()
const w = words.build

const value = computed(() => valueOf(props.parameter, props.values))
const kind = computed(() => props.parameter.kind)
const isFigure = computed(() => ['length', 'area', 'angle', 'number', 'count'].includes(kind.value))
const UNITS: Record<string, string> = { length: ' mm', area: ' mm²', angle: '°' }
const unit = computed(() => UNITS[kind.value] ?? (props.parameter.unit && kind.value === 'number' ? ` ${props.parameter.unit}` : ''))

const text = ref('')
const wrong = ref('')
const shown = (one: unknown) =>
  one === null || one === undefined || one === ''
    ? ''
    : `${kind.value === 'length' ? mm(Number(one)) : number(Number(one), 3)}${unit.value}`
function reset() {
  text.value = isFigure.value ? shown(value.value) : String(value.value ?? '')
  wrong.value = ''
}
const typed = ref(false)
watch(value, () => typed.value || reset(), { immediate: true })
/** As wide as what stands in it. */
const width = computed(() => `${Math.max(text.value.length, (props.parameter.optional ? w.none : '').length, 3) + 2.4}ch`)

function figureOf(typed: string): number | null {
  const sign = typed.trim().startsWith('-') ? -1 : 1
  const plain = typed
    .trim()
    .replace(/^[-+]\s*/, '')
    .replace(/\s*(mm²|mm2|°|deg)$/, '')
    .replace(props.parameter.unit && kind.value === 'number' ? new RegExp(`\\s*${props.parameter.unit}$`) : /$/, '')
  const found = kind.value === 'length' ? parseLength(plain) : plain ? Number(plain.replace(',', '.')) : NaN
  return found === null || !Number.isFinite(found) ? null : sign * found
}
function within(found: number) {
  const { low, high } = props.parameter
  return (low === null || found >= low) && (high === null || found <= high) && (kind.value !== 'count' || Number.isInteger(found))
}
function take() {
  if (!isFigure.value) return emit('set', text.value.trim())
  if (!text.value.trim() && props.parameter.optional) return emit('set', undefined)
  const found = figureOf(text.value)
  if (found === null || !within(found)) {
    const { low, high } = props.parameter
    const say = kind.value === 'length' ? w.wrong.length : w.wrong.number
    wrong.value = say(number(low ?? 0, 3), number(high ?? 0, 3))
    return
  }
  wrong.value = ''
  if (found !== value.value) emit('set', found)
  else reset()
}
/** What is typed shows at once; the text stays as it is typed. */
function typing() {
  const found = isFigure.value && text.value.trim() ? figureOf(text.value) : null
  if (found !== null && within(found) && found !== value.value) emit('set', found)
}
function step(by: number) {
  const now = figureOf(text.value) ?? (Number(value.value) || 0)
  const next = Math.round((now + by * (props.parameter.step ?? 1)) * 1000) / 1000
  if (within(next)) emit('set', next)
}
const place = computed(() => (value.value as [number, number] | null) ?? null)
const signed = (typed: string) => (typed.trim().startsWith('-') ? -1 : 1) * (parseLength(typed.trim().replace(/^[-+]/, '')) ?? NaN)
function takePlace(axis: 0 | 1, typed: string) {
  const found = signed(typed)
  if (!Number.isFinite(found)) return
  const frame = drawing.drawing?.frame ?? [0, 0]
  const next = place.value ? [...place.value] : [frame[0] / 2, frame[1] / 2]
  next[axis] = found
  emit('set', next)
}
/** A line that nobody has drawn is told of in words; it is typed once somebody asks for that. */
const opened = ref(false)
const ends = computed(() => (value.value as [number, number, number, number] | null) ?? null)
/** Ends that are not typed yet stand on the page's middle line, at its sides. */
function takeEnd(k: number, typed: string) {
  const found = signed(typed)
  if (!Number.isFinite(found)) return
  const [width, height] = drawing.drawing?.frame ?? [100, 100]
  const next = ends.value ? [...ends.value] : [0, height / 2, width, height / 2]
  next[k] = found
  emit('set', next)
}
/** Pieces that can be named: those that are picked, and the one that is. */
const named = computed(() => {
  const ids = new Set([...picks.pieces, ...(picks.byId.has(String(value.value)) ? [String(value.value)] : [])])
  return [...ids].map((id) => ({ id, said: picks.byId.get(id)?.piece.name || id }))
})
const choices = computed(() => {
  if (kind.value === 'piece') return [...props.parameter.choices.map(({ value: id, words: said }) => ({ id, said })), ...named.value]
  const own = props.parameter.choices.map(({ value: id, words: said }) => ({ id, said }))
  const other = kind.value === 'text' && own.length && !own.some(({ id }) => id === value.value)
  return other ? [...own, { id: String(value.value), said: String(value.value) }] : own
})
</script>

<template>
  <span class="field" :class="{ wrong }">
    <select
      v-if="choices.length"
      :value="value ?? ''"
      :aria-label="parameter.label"
      :title="parameter.help"
      @change="emit('set', ($event.target as HTMLSelectElement).value)"
    >
      <option v-for="{ id, said } in choices" :key="id" :value="id">{{ said }}</option>
    </select>
    <input
      v-else-if="kind === 'flag'"
      type="checkbox"
      :checked="!!value"
      :aria-label="parameter.label"
      @change="emit('set', ($event.target as HTMLInputElement).checked)"
    />
    <input
      v-else-if="kind === 'colour'"
      type="color"
      :value="value ?? '#1b2a4e'"
      :aria-label="parameter.label"
      @change="emit('set', ($event.target as HTMLInputElement).value)"
    />
    <select
      v-else-if="kind === 'layer'"
      :value="value ?? ''"
      :aria-label="parameter.label"
      :title="parameter.help"
      @change="emit('set', ($event.target as HTMLSelectElement).value)"
    >
      <option value="">{{ w.none }}</option>
      <option v-for="layer in drawing.drawing?.layers ?? []" :key="layer.id" :value="layer.id">{{ layer.name }}</option>
    </select>
    <FaceField v-else-if="kind === 'font'" :name="parameter.name" :label="parameter.label" :value="String(value ?? '')" />
    <WordsField
      v-else-if="parameter.lines"
      :label="parameter.label"
      :help="parameter.help"
      :value="String(value ?? '')"
      :most="parameter.most"
      @set="emit('set', $event)"
    />
    <button
      v-else-if="(kind === 'line' || kind === 'axis') && !ends && !opened"
      class="typed"
      :title="parameter.help"
      @click="opened = true"
    >
      {{ kind === 'axis' ? w.foundLine : w.middleLine }}
    </button>
    <span v-else-if="kind === 'line' || kind === 'axis'" class="place">
      <TypedField
        v-for="(end, k) in w.ends"
        :key="k"
        class="typed"
        :value="ends ? `${mm(ends[k])} mm` : ''"
        placeholder="–"
        :aria-label="`${parameter.label}, ${end}`"
        @take="takeEnd(k, $event)"
      />
    </span>
    <span v-else-if="kind === 'point'" class="place">
      <template v-for="axis in [0, 1] as const" :key="axis">
        <TypedField
          class="typed"
          size="8"
          :value="place ? `${mm(place[axis])} mm` : ''"
          :placeholder="place ? '' : '–'"
          :aria-label="`${parameter.label}, ${axis ? w.down : w.across}`"
          @take="takePlace(axis, $event)"
        />
        {{ axis ? w.down : w.across }}
      </template>
    </span>
    <input
      v-else
      v-model="text"
      class="typed"
      :style="{ width }"
      :placeholder="parameter.optional ? w.none : ''"
      :aria-label="parameter.label"
      :title="parameter.help"
      :aria-invalid="!!wrong"
      :role="isFigure ? 'spinbutton' : undefined"
      :aria-valuenow="isFigure && value !== null && value !== undefined ? Number(value) : undefined"
      :maxlength="kind === 'text' ? Math.min(parameter.most, 200) : undefined"
      autocomplete="off"
      @focus="($event.target as HTMLInputElement).select()"
      @input="((typed = true), typing())"
      @blur="typed = false"
      @change="((typed = false), take())"
      @keydown.enter="((typed = false), take())"
      @keydown.up.prevent="isFigure && step(1)"
      @keydown.down.prevent="isFigure && step(-1)"
    />
    <span v-if="wrong" class="why small" role="alert">{{ wrong }}</span>
  </span>
</template>

<style scoped>
.field {
  display: inline;
}
.typed,
select {
  max-width: 100%;
  margin: 0 3px;
  min-height: 28px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  line-height: 1.3;
  font-weight: 700;
  font-variant-numeric: tabular-nums;
}
.place .typed {
  width: 9ch;
}
input[type='checkbox'] {
  width: 18px;
  height: 18px;
  vertical-align: -3px;
  accent-color: var(--ink);
}
input[type='color'] {
  width: 34px;
  height: 28px;
  padding: 2px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  vertical-align: middle;
}
.wrong .typed {
  border-color: var(--flag);
}
.why {
  display: block;
  color: var(--flag);
  font-weight: 400;
}
</style>
