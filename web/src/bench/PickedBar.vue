<script setup lang="ts">
import { mdiArrangeBringToFront, mdiArrangeSendToBack, mdiClose, mdiContentCopy, mdiEyeOffOutline, mdiLockOutline, mdiPaletteOutline } from '@mdi/js'
import { computed, nextTick, ref } from 'vue'

import { useUnits } from '@/composables/units'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'
import { colourOf, usePicks, type Level, type Likeness } from '@/stores/picks'
import { words } from '@/words'

import IconButton from './IconButton.vue'

/** What is picked, in figures, and what can be done with it. */
const picks = usePicks()
const jobs = useJob()
const drawing = useDrawing()
const units = useUnits()
const w = words.picked

const LEVELS: Level[] = ['piece', 'outline', 'node']
const LIKE: Likeness[] = ['colour', 'layer', 'size', 'kind', 'inside', 'others']
const MARKS = ['#2f5fd0', '#2c6e5b', '#b8860b', '#8a4fa3', '#0f7c8a']

const first = computed(() => picks.byId.get(picks.pieces[0]))
const what = computed(() => {
  if (picks.picks.length > 1) return w.several(picks.picks.length, picks.pieces.length)
  const pick = picks.picks[0]
  if (pick.node !== undefined) return w.node(pick.node + 1)
  return first.value?.piece.name || w.unnamed
})
/** The colour of what is picked, where it is one. */
const colour = computed(() => {
  const all = new Set(picks.pieces.flatMap((id) => picks.byId.get(id) ?? []).map(colourOf))
  return all.size === 1 ? [...all][0] : ''
})
const reading = computed(() => picks.reading)
/** The single outline that was touched says what it is. */
const touched = computed(() => {
  const own = picks.touchedReading
  return own && reading.value && String(own.box) !== String(reading.value.box) ? own : null
})
const size = (box: number[]) => units.size(box[2] - box[0], box[3] - box[1])
const round = (radius: number) => w.round(units.text(2 * radius))
const figures = computed(() => {
  const now = reading.value
  if (!now) return []
  const found: [string, string][] = now.radius_mm ? [[w.circle, round(now.radius_mm)]] : [[w.size, size(now.box)]]
  found.push([w.line, units.text(now.length_mm)])
  if (now.area_mm2 !== null) found.push([w.area, units.area(now.area_mm2)])
  found.push([w.nodes, now.nodes.toLocaleString(units.locale)])
  if (now.thin_mm !== null) found.push([w.thin, units.text(now.thin_mm)])
  return found
})
const place = computed(() => {
  const pick = picks.picks[0]
  const shape = first.value?.shape
  if (picks.picks.length !== 1 || pick.node === undefined || !shape) return ''
  return w.at(units.text(shape.nodes[2 * pick.node]), units.text(shape.nodes[2 * pick.node + 1]))
})

const copied = ref(false)
async function copy() {
  const own = touched.value ? [[w.touched, touched.value.radius_mm ? round(touched.value.radius_mm) : size(touched.value.box)]] : []
  await navigator.clipboard?.writeText([what.value, ...[...figures.value, ...own].map(([name, value]) => `${name}: ${value}`)].join('\n'))
  copied.value = true
  window.setTimeout(() => (copied.value = false), 1600)
}

const layers = computed(() => drawing.drawing?.layers ?? [])
const own = computed(() => {
  const ids = new Set(picks.pieces.map((id) => picks.byId.get(id)?.layer.id))
  return ids.size === 1 ? [...ids][0] : ''
})
const naming = ref(false)
const name = ref('')
const field = ref<HTMLInputElement | null>(null)
async function toLayer(layer: string) {
  if (layer === 'new') {
    naming.value = true
    name.value = ''
    await nextTick()
    return field.value?.focus()
  }
  void jobs.addStep(w.moving, 'to-layer', { pieces: picks.pieces, layer })
}
function toNew() {
  naming.value = false
  const colour = first.value?.piece.fill ?? first.value?.layer.color
  if (name.value.trim()) void jobs.addStep(w.moving, 'to-layer', { pieces: picks.pieces, name: name.value.trim(), color: colour })
}
const arrange = (to: 'front' | 'back') => void jobs.addStep(w.moving, 'arrange', { pieces: picks.pieces, to })
const hide = () => void jobs.setPieces(w.hiding, picks.pieces, { hidden: true })
const lock = () => void jobs.setPieces(w.locking, picks.pieces, { locked: true }).then(() => picks.clear())
const mark = (colour: string | null) => void jobs.setPieces(w.marking, picks.pieces, { mark: colour })
</script>

<template>
  <section v-if="picks.picks.length" class="picked" :aria-label="w.title">
    <div class="row">
      <button
        v-if="colour"
        class="swatch"
        :style="{ background: colour }"
        :title="w.like.colour"
        :aria-label="w.allOf(colour)"
        @click="picks.pickAlike('colour')"
      />
      <b class="what">{{ what }}</b>
      <span v-for="[label, value] in figures" :key="label" class="figure">{{ label }} <b>{{ value }}</b></span>
      <span v-if="place" class="figure">{{ place }}</span>
      <span v-if="touched" class="figure touched">
        {{ touched.radius_mm ? w.touchedHole : w.touched }} <b>{{ touched.radius_mm ? round(touched.radius_mm) : size(touched.box) }}</b>
      </span>
      <span v-if="picks.problem" class="flag">{{ picks.problem }}</span>
      <IconButton class="close" :icon="mdiClose" :name="w.letGo" keys="Esc" @press="picks.clear()" />
    </div>
    <div class="row">
      <div class="levels" role="group" :aria-label="w.level">
        <button v-for="level in LEVELS" :key="level" :class="{ on: picks.level === level }" :aria-pressed="picks.level === level" @click="picks.level = level">
          {{ w.levels[level] }}
        </button>
      </div>
      <v-menu location="top">
        <template #activator="{ props: menu }">
          <button v-bind="menu" class="plain">{{ w.more }}</button>
        </template>
        <ul class="menu">
          <li v-for="how in LIKE" :key="how">
            <button @click="picks.pickAlike(how)">{{ w.like[how] }} <span class="quiet">{{ picks.alike(how).length }}</span></button>
          </li>
        </ul>
      </v-menu>
      <input
        v-if="naming"
        ref="field"
        v-model="name"
        class="name"
        maxlength="80"
        :placeholder="w.newName"
        :aria-label="w.newName"
        @keydown.enter="toNew"
        @keydown.esc.stop="naming = false"
        @blur="naming = false"
      />
      <select v-else :value="own" :disabled="!!jobs.busy" :aria-label="w.layer" @change="toLayer(($event.target as HTMLSelectElement).value)">
        <option v-if="!own" value="">{{ w.layers }}</option>
        <option v-for="layer in layers" :key="layer.id" :value="layer.id">{{ w.on(layer.name) }}</option>
        <option value="new">{{ w.newLayer }}</option>
      </select>
      <span class="spring" />
      <div class="acts">
        <button class="unit" :aria-label="w.unit(units.unit)" @click="units.toggle()">{{ units.unit }}</button>
      <IconButton :icon="mdiContentCopy" :name="copied ? w.copied : w.copy" @press="copy" />
      <v-menu location="top">
        <template #activator="{ props: menu }">
          <button v-bind="menu" class="icon" type="button" :aria-label="w.mark" :title="w.mark"><v-icon :icon="mdiPaletteOutline" size="20" /></button>
        </template>
        <div class="menu marks">
          <button v-for="one in MARKS" :key="one" :style="{ background: one }" :aria-label="w.markWith(one)" @click="mark(one)" />
          <button class="none" :aria-label="w.unmark" @click="mark(null)">×</button>
        </div>
      </v-menu>
      <IconButton :icon="mdiArrangeBringToFront" :name="w.front" :disabled="!!jobs.busy" @press="arrange('front')" />
      <IconButton :icon="mdiArrangeSendToBack" :name="w.back" :disabled="!!jobs.busy" @press="arrange('back')" />
      <IconButton :icon="mdiEyeOffOutline" :name="w.hide" :disabled="!!jobs.busy" @press="hide" />
      <IconButton :icon="mdiLockOutline" :name="w.lock" :disabled="!!jobs.busy" @press="lock" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.picked {
  position: absolute;
  left: 16px;
  right: 16px;
  bottom: 12px;
  display: grid;
  gap: 2px;
  padding: 6px 10px 6px 14px;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--raised);
  box-shadow: 0 4px 16px rgb(27 42 78 / 0.14);
  font-size: 12.5px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 8px;
}
.swatch {
  flex: none;
  width: 20px;
  height: 20px;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: 4px;
  cursor: pointer;
}
.what {
  font-size: 14px;
  max-width: 220px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.figure {
  color: var(--ink-2);
  white-space: nowrap;
}
.figure b {
  color: var(--ink);
}
.touched b {
  color: var(--pick);
}
.acts {
  display: flex;
  align-items: center;
}
.acts :deep(.icon),
.acts .icon {
  width: 30px;
  height: 34px;
  padding: 0;
  border: 0;
  border-radius: 8px;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
}
.close {
  position: absolute;
  right: 6px;
  top: 4px;
}
.row:first-child {
  min-height: 28px;
  padding-right: 36px;
}
.flag {
  color: var(--flag);
}
.spring {
  flex: 1;
}
.levels {
  display: flex;
  border: 1px solid var(--rule);
  border-radius: 8px;
  overflow: hidden;
}
.levels button,
.plain,
.unit {
  height: 28px;
  padding: 0 9px;
  border: 0;
  background: none;
  font-weight: 600;
  cursor: pointer;
}
.levels button.on {
  background: var(--ink);
  color: var(--on-ink);
}
.plain,
.unit,
select,
.name {
  height: 28px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
}
select,
.name {
  max-width: 140px;
  padding: 0 6px;
}
.menu {
  list-style: none;
  margin: 0;
  padding: 4px;
  background: var(--raised);
  color: var(--ink);
  border: 1px solid var(--rule);
  border-radius: 8px;
}
.menu li button {
  display: flex;
  justify-content: space-between;
  gap: 18px;
  width: 100%;
  padding: 6px 14px;
  border: 0;
  border-radius: 6px;
  background: none;
  text-align: left;
  cursor: pointer;
}
.menu li button:hover {
  background: var(--ground);
}
.marks {
  display: flex;
  gap: 6px;
  padding: 8px;
}
.marks button {
  width: 26px;
  height: 26px;
  border: 1px solid var(--edge);
  border-radius: 50%;
  cursor: pointer;
}
.none {
  background: var(--panel);
}
</style>
