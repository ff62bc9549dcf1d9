<script setup lang="ts">
import { computed, ref, watch } from 'vue'

import type { FaceShown } from '@/api/types'
import { mm } from '@/composables/lengths'
import { useDraft } from '@/stores/draft'
import { useFaces } from '@/stores/faces'
import { words } from '@/words'

/** All faces, each with the words that are being set, and what it means for the cut. */
const props = defineProps<{ value: string; text: string; capitalsMm: number }>()
const emit = defineEmits<{ set: [face: FaceShown] }>()
const draft = useDraft()
const faces = useFaces()
const w = words.lettering
const chooser = ref<HTMLInputElement | null>(null)
const RESTED_MS = 300

let timer = 0
watch(
  () => [props.text, props.capitalsMm] as const,
  ([text, capitals], before) => {
    window.clearTimeout(timer)
    timer = window.setTimeout(() => void faces.look(text, capitals), before ? RESTED_MS : 0)
  },
  { immediate: true },
)

/** The part of the outlines that is shown, with a little room. */
function view({ box }: FaceShown): string {
  if (!box) return '0 0 1 1'
  const room = (box[3] - box[1]) * 0.08
  return [box[0] - room, box[1] - room, box[2] - box[0] + 2 * room, box[3] - box[1] + 2 * room].map((n) => n.toFixed(1)).join(' ')
}
const thin = ({ judged }: FaceShown) =>
  judged?.thinnest_mm !== null && judged?.thinnest_mm !== undefined && judged.thinnest_mm < (faces.shown?.least_mm ?? 0)
function said(face: FaceShown): string[] {
  const { judged } = face
  return [
    face.brought || face.suits,
    ...(judged?.pieces ? [w.pieces(judged.pieces)] : []),
    ...(judged?.counter_mm ? [w.counter(mm(judged.counter_mm))] : []),
  ].filter(Boolean)
}
const strokes = (face: FaceShown) =>
  face.judged?.thinnest_mm
    ? thin(face)
      ? w.tooThin(mm(face.judged.thinnest_mm), mm(faces.shown!.least_mm), faces.shown!.material)
      : w.thinnest(mm(face.judged.thinnest_mm))
    : ''
const lacks = (face: FaceShown) => (face.lacking.length ? w.lacks(face.lacking.join(' ')) : '')
const rows = computed(() => faces.shown?.faces ?? [])

async function bring(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  const id = await faces.bring(file)
  if (!id) return
  await faces.look(props.text, props.capitalsMm)
  const face = faces.byId(id)
  if (face) emit('set', face)
}
</script>

<template>
  <div class="faces" role="group" :aria-label="w.faces">
    <p v-if="faces.problem" class="flag" role="alert">{{ faces.problem }}</p>
    <div class="acts">
      <v-btn size="small" variant="outlined" :loading="faces.bringing" @click="chooser?.click()">{{ w.bring }}</v-btn>
      <v-btn size="small" variant="text" @click="draft.choosing = ''">{{ w.chosen }}</v-btn>
      <input
        ref="chooser"
        class="unseen"
        type="file"
        accept=".ttf,.otf,.ttc,.woff,.woff2"
        tabindex="-1"
        :aria-label="w.bring"
        @change="bring"
      />
    </div>
    <p v-if="!rows.length" class="quiet">{{ words.build.working }}</p>
    <ul>
      <li v-for="face in rows" :key="face.id">
        <button class="row" :aria-pressed="face.id === value" @click="emit('set', face)">
          <b>{{ face.name }}</b>
          <svg :viewBox="view(face)" preserveAspectRatio="xMinYMid meet" aria-hidden="true" :class="{ line: face.single_line }">
            <path :d="face.d" />
          </svg>
          <span class="small quiet">{{ said(face).join(', ') }}</span>
          <span v-if="strokes(face)" class="small" :class="thin(face) ? 'flag' : 'quiet'">{{ strokes(face) }}</span>
          <span v-if="lacks(face)" class="small flag">{{ lacks(face) }}</span>
          <span v-if="face.embedding" class="small quiet">{{ face.embedding }}</span>
        </button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.faces {
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  max-height: 380px;
  overflow: auto;
}
.acts {
  position: sticky;
  top: 0;
  display: flex;
  justify-content: space-between;
  padding: 8px;
  background: var(--panel);
  border-bottom: 1px solid var(--rule);
  z-index: 1;
}
ul {
  margin: 0;
  padding: 4px;
  list-style: none;
}
.row {
  display: grid;
  gap: 2px;
  width: 100%;
  padding: 8px 10px;
  border: 2px solid transparent;
  border-radius: 8px;
  background: none;
  color: var(--ink);
  text-align: left;
  cursor: pointer;
}
.row:hover {
  background: var(--raised);
}
.row[aria-pressed='true'] {
  border-color: var(--ink);
  background: var(--raised);
}
svg {
  width: 100%;
  height: 34px;
  margin: 2px 0;
}
path {
  fill: var(--ink);
}
.line path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4px;
  vector-effect: non-scaling-stroke;
}
.flag {
  color: var(--flag);
}
p {
  margin: 8px 10px;
}
</style>
