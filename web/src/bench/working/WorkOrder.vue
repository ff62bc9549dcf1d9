<script setup lang="ts">
import {
  mdiCheckCircleOutline,
  mdiClose,
  mdiPlayCircleOutline,
  mdiRestore,
  mdiSourceCommitStart,
  mdiTransitConnectionHorizontal,
} from '@mdi/js'
import { computed, nextTick, ref, watch } from 'vue'

import { timeOf } from '@/composables/times'
import { useJob } from '@/stores/job'
import { useOwnPlaces, type Kind } from '@/stores/ownPlaces'
import { useWorking, type Stretch } from '@/stores/working'
import { words } from '@/words'

import IconButton from '../IconButton.vue'
import OwnPlaces from './OwnPlaces.vue'

/** The pieces in the order in which they are worked; rows are dragged, or moved by keys. */
const working = useWorking()
const own = useOwnPlaces()
const jobs = useJob()
const w = words.working
/** More rows than these are not read. */
const MOST = 300
const rows = computed(() => working.stretches.slice(0, MOST))
const program = computed(() => working.shown!.program)
const named = (row: Stretch) => program.value.names[row.piece] || `${w.unnamed} ${row.piece + 1}`
const seconds = (row: Stretch) => {
  const at = working.shown!
  return at.ends[row.last] - at.leaves[row.first]
}
const isDone = (row: Stretch) => working.done.includes(row.piece)

const list = ref<HTMLElement | null>(null)
let dragged = -1
const over = ref(-1)
function drop(to: number) {
  if (dragged >= 0 && dragged !== to) void working.reorder(dragged, to)
  dragged = over.value = -1
}
async function move(k: number, by: -1 | 1) {
  const to = k + by
  if (to < 0 || to >= rows.value.length || jobs.busy) return
  const piece = rows.value[k].piece
  await working.reorder(k, to)
  // The row has its focus where it is now, when the order is there.
  moved = piece
}
let moved = -1
watch(
  () => working.shown,
  async () => {
    if (moved < 0) return
    await nextTick()
    focus(rows.value.findIndex((row) => row.piece === moved))
    moved = -1
  },
)
/** The row that the Tab key comes to; arrows go from row to row. */
const at = ref(0)
const focus = (k: number) => list.value?.querySelectorAll<HTMLElement>('.to')[k]?.focus()
function pick(k: number) {
  working.picked = k
  working.goTo(rows.value[k].first)
}
function toggle(row: Stretch) {
  working.done = isDone(row) ? working.done.filter((one) => one !== row.piece) : [...working.done, row.piece]
}
function setOwn(row: Stretch, kind: Kind) {
  if (isSet(row, kind)) return own.leave()
  working.picked = rows.value.indexOf(row)
  own.begin(program.value.pieces[row.piece], kind)
}
const isSet = (row: Stretch, kind: Kind) => own.piece === row.piece && own.kind === kind
/** What can be set on the lines of a row: its start, and tabs where a machine cuts it. */
const settable = (row: Stretch): Kind[] => {
  if (!program.value.runs.closed[row.first]) return []
  return program.value.machine && program.value.tools[row.tool].treatment === 'cut' ? ['start', 'tabs'] : ['start']
}
const SETS = {
  start: { icon: mdiSourceCommitStart, name: w.setStart },
  tabs: { icon: mdiTransitConnectionHorizontal, name: w.setTabs },
}
const startAt = (row: Stretch) => (working.from = working.from === row.first ? 0 : row.first)
watch(
  () => working.row,
  (k) => working.playing && list.value?.children[k]?.scrollIntoView({ block: 'nearest' }),
)
</script>

<template>
  <section class="order">
    <div class="head">
      <h3 class="small">{{ w.order }}</h3>
      <span class="links small">
        <button v-if="working.ordered" class="link" :disabled="!!jobs.busy" @click="jobs.dropStep(working.ordered.key)">
          {{ w.machineOrder }}
        </button>
        <button v-if="own.starts" class="link" :disabled="!!jobs.busy" @click="jobs.dropStep(own.starts.key)">
          {{ w.machineStarts }}
        </button>
        <button v-if="own.tabs" class="link" :disabled="!!jobs.busy" @click="jobs.dropStep(own.tabs.key)">
          {{ w.machineTabs }}
        </button>
      </span>
    </div>
    <p class="small quiet">{{ w.orderHint }}</p>
    <ol ref="list">
      <li
        v-for="(row, k) in rows"
        :key="row.first"
        draggable="true"
        :class="{ now: k === working.row, picked: k === working.picked, gone: !working.isLeft(row.first), over: k === over }"
        @dragstart="dragged = k"
        @dragover.prevent="over = k"
        @dragleave="over = -1"
        @drop.prevent="drop(k)"
        @keydown.alt.up.prevent="move(k, -1)"
        @keydown.alt.down.prevent="move(k, 1)"
      >
        <button
          class="to"
          :tabindex="k === Math.min(at, rows.length - 1) ? 0 : -1"
          :aria-current="k === working.row"
          @click="pick(k)"
          @focus="at = k"
          @keydown.up.exact.prevent="focus(k - 1)"
          @keydown.down.exact.prevent="focus(k + 1)"
        >
          <b>{{ k + 1 }}</b>
          <i class="swatch" :style="{ background: program.tools[row.tool].color }" />
          <span class="name">{{ named(row) }}</span>
          <span class="small quiet"
            >{{ row.last > row.first ? `${w.parts(row.last - row.first + 1)}, ` : '' }}{{ timeOf(seconds(row)) }}</span
          >
        </button>
        <span class="acts">
          <IconButton
            v-for="kind in settable(row)"
            :key="kind"
            :icon="isSet(row, kind) ? mdiClose : SETS[kind].icon"
            :name="isSet(row, kind) ? w.leave : SETS[kind].name"
            @press="setOwn(row, kind)"
          />
          <IconButton
            :icon="working.from === row.first && row.first ? mdiRestore : mdiPlayCircleOutline"
            :name="working.from === row.first && row.first ? w.fromStart : w.startHere"
            @press="startAt(row)"
          />
          <IconButton
            :icon="isDone(row) ? mdiRestore : mdiCheckCircleOutline"
            :name="isDone(row) ? w.again : w.done"
            @press="toggle(row)"
          />
        </span>
        <OwnPlaces v-if="own.piece === row.piece" :key="own.kind" />
      </li>
    </ol>
    <p v-if="working.stretches.length > MOST" class="small quiet">{{ w.more(working.stretches.length - MOST) }}</p>
  </section>
</template>

<style scoped>
.order {
  padding: 12px 18px;
  border-top: 1px solid var(--rule);
}
.head {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  gap: 0 8px;
}
h3,
p {
  margin: 0;
}
ol {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  position: relative;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  border-radius: 8px;
  border-top: 2px solid transparent;
}
li.now {
  background: var(--raised);
}
li.picked .name {
  color: var(--pick);
  font-weight: 650;
}
li.gone .to {
  opacity: 0.5;
  text-decoration: line-through;
}
li.over {
  border-top-color: var(--pick);
}
.to {
  flex: 1;
  min-width: 0;
  display: grid;
  grid-template-columns: 24px 14px minmax(70px, 1fr) auto;
  gap: 8px;
  align-items: center;
  padding: 5px 4px;
  border: 0;
  background: none;
  text-align: left;
  cursor: pointer;
}
.name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.swatch {
  width: 14px;
  height: 14px;
  border-radius: 4px;
  border: 1px solid var(--edge);
}
.links {
  display: flex;
  gap: 12px;
}
.acts {
  position: absolute;
  top: 2px;
  right: 0;
  display: flex;
  border-radius: 8px;
  background: var(--raised);
  visibility: hidden;
}
li:hover .acts,
li:focus-within .acts {
  visibility: visible;
}
.acts :deep(.icon) {
  width: 28px;
  height: 28px;
}
.link {
  padding: 0;
  border: 0;
  background: none;
  text-decoration: underline;
  cursor: pointer;
}
</style>
