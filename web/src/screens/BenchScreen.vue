<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { Refused } from '@/api/client'
import type { Station, StepDone } from '@/api/types'
import ArchiveDialog from '@/bench/ArchiveDialog.vue'
import BenchNotices from '@/bench/BenchNotices.vue'
import LookSwitch from '@/bench/LookSwitch.vue'
import PickedBar from '@/bench/PickedBar.vue'
import RulerNote from '@/bench/RulerNote.vue'
import TourCard from '@/bench/TourCard.vue'
import SideTabs from '@/bench/SideTabs.vue'
import WeededNote from '@/bench/WeededNote.vue'
import { STATIONS } from '@/bench/stations'
import CheckPanel from '@/bench/panels/CheckPanel.vue'
import HandoverPanel from '@/bench/panels/HandoverPanel.vue'
import IntakePanel from '@/bench/panels/IntakePanel.vue'
import PiecesPanel from '@/bench/panels/PiecesPanel.vue'
import StepPanel from '@/bench/panels/StepPanel.vue'
import TracePanel from '@/bench/panels/TracePanel.vue'
import ReadOut from '@/bench/ReadOut.vue'
import RouteRail from '@/bench/RouteRail.vue'
import TopBar from '@/bench/TopBar.vue'
import WorkCanvas from '@/canvas/WorkCanvas.vue'
import { useDrop } from '@/composables/drop'
import { useKeys } from '@/composables/keys'
import { usePaste } from '@/composables/paste'
import { announce } from '@/composables/announce'
import { useTour } from '@/composables/tour'
import { useSides, type Seen } from '@/composables/sides'
import { useBench } from '@/stores/bench'
import { useDrawing } from '@/stores/drawing'
import { useIntake } from '@/stores/intake'
import { useJob } from '@/stores/job'
import { usePicks, type Level } from '@/stores/picks'
import { useRuler } from '@/stores/ruler'
import { useLibrary } from '@/stores/library'
import { useTrace } from '@/stores/trace'
import { words } from '@/words'

const props = defineProps<{ job: string; station?: string }>()
const station = computed<Station>(() => (props.station || 'intake') as Station)

const jobs = useJob()
const drawing = useDrawing()
const bench = useBench()
const intake = useIntake()
const library = useLibrary()
const trace = useTrace()
const picks = usePicks()
const ruler = useRuler()
const route = useRoute()
const router = useRouter()
const tour = useTour()
const canvas = ref<InstanceType<typeof WorkCanvas> | null>(null)

const PANELS = { intake: IntakePanel, trace: TracePanel, check: CheckPanel, handover: HandoverPanel }
const panel = computed(() => {
  if (bench.list) return PiecesPanel
  const reopened = jobs.head?.steps.some((step) => step.key === bench.reopened)
  return reopened ? StepPanel : PANELS[station.value]
})
const stationName = computed(() => STATIONS.find((one) => one.id === station.value)?.name ?? '')
const percent = computed(() => canvas.value?.percent ?? 100)
const reach = computed<[number, number] | null>(() => {
  const machine = library.library.machines.find((m) => m.id === jobs.head?.settings.machine)
  return machine ? [machine.reach_width_mm, machine.reach_height_mm] : null
})
/** Findings are numbered on the work where they are worked on; the proof has the sheet to itself. */
const marked = computed(() => (station.value === 'check' && bench.look !== 'spread' ? jobs.open : []))

/** Pictures that have not become lines yet; without a name a trace is about the first. */
const untraced = computed(() => {
  const pictures = drawing.drawing?.pictures ?? []
  const traces = jobs.head?.steps.filter((s) => s.operation === 'trace' && s.enabled) ?? []
  const named = traces.map((s) => (s.parameters as { picture?: string }).picture || pictures[0]?.id)
  return pictures.filter((p) => !named.includes(p.id))
})
/** Pictures that nothing would be seen of on white. */
const pale = computed(() => jobs.findings.filter((f) => f.id === 'white-on-clear').flatMap((f) => f.pieces))
watch(
  () => bench.wantsAll,
  () => canvas.value?.showAll(),
)

async function load() {
  drawing.clear()
  bench.clear()
  await Promise.all([jobs.load(props.job), library.load().catch(() => {})])
  if (jobs.job) void intake.goOn()
}
watch(() => props.job, load)
/** The trace that the station is about: the named step, else the last one that was kept, else the first to be made. */
const traced = computed(() => {
  if (station.value !== 'trace' || !jobs.head) return null
  const kept = jobs.head.steps.filter((s) => s.operation === 'trace' && s.enabled)
  const step = kept.find((s) => s.key === route.query.step) ?? kept.at(-1)
  const at = step ? jobs.head.steps.indexOf(step) : jobs.head.steps.length
  const before = jobs.head.steps.slice(0, at).findLast((s) => s.document)?.document ?? ''
  return { step: step ?? null, before: step ? before : jobs.head.document }
})
const sameStep = (a: StepDone | null, b: StepDone | null) =>
  a?.key === b?.key && JSON.stringify(a?.parameters) === JSON.stringify(b?.parameters)
/** While a trace is changed, the bench shows what it begins from. */
const documentShown = computed(() => traced.value?.before || jobs.head?.document)
const tracing = computed(() =>
  station.value === 'trace' && drawing.drawing?.pictures.length ? { d: trace.shown?.d ?? '', number: trace.shown?.number ?? 0 } : null,
)
const proving = computed(() => station.value === 'handover' && !!bench.proof)
const views = useSides(untraced, pale, proving)
/** A trace has the picture on one side, and its lines on the other. */
const sides = computed<Seen[]>(() => {
  if (!tracing.value) return proving.value ? views.value.slice(0, 1) : views.value
  const [first] = views.value
  return [{ ...first, pictures: drawing.drawing?.pictures ?? [], targets: [], drawn: [], labels: [], box: null }]
})
const split = computed({
  get: () => (tracing.value ? trace.split : bench.split),
  set: (share) => (tracing.value ? (trace.split = share) : (bench.split = share)),
})
const perNodeMm = computed(() => (jobs.head?.figures.line_mm ?? 0) / Math.max(jobs.head?.figures.nodes ?? 0, 1))
watch(
  () => bench.wantsBox,
  (box) => box && canvas.value?.show(box),
)
watch(
  () => bench.ruler,
  (out) => out || ruler.clear(),
)
watch(
  () => [traced.value?.before, traced.value?.step, drawing.shown] as const,
  () => {
    const now = traced.value
    if (!now) return trace.close()
    const pictures = drawing.drawing?.pictures ?? []
    if (drawing.shown !== now.before || !pictures.length) return
    const named = (now.step?.parameters as { picture?: string } | undefined)?.picture
    const picture = pictures.find((p) => p.id === named) ?? pictures[0]
    // What is set but not kept stays, unless the step itself is another: going back may have changed it.
    if (trace.before === now.before && sameStep(trace.step, now.step)) return
    void trace.open({ job: props.job, before: now.before, picture: picture.id, step: now.step })
  },
)
watch(
  documentShown,
  (document) => {
    if (document) drawing.load(document).catch((e) => (jobs.problem = e instanceof Refused ? e.sentence : String(e)))
  },
)
watch(
  () => jobs.job?.name,
  (name) => (document.title = name ? `${name}, Hakobu` : 'Hakobu'),
)
watch(station, (now, before) => {
  if (before === 'handover') bench.proof = null
  if (before === 'check') {
    bench.picked = null
    bench.preview = null
  }
  if (now !== 'intake' && bench.look === 'art') bench.look = 'lines'
  bench.list = false
  bench.reopened = ''
  if (before === 'trace') trace.close()
})
watch(
  () => jobs.findings,
  (findings) => {
    if (!findings.some((f) => f.key === bench.picked && !f.set_aside)) bench.picked = null
  },
)

/** What happens is said for those who do not see it. */
watch(
  () => jobs.head?.id,
  (now, before) => before && jobs.head && announce(words.live.did(jobs.head.what, jobs.head.figures.pieces, jobs.head.figures.nodes)),
)
watch(
  () => picks.picks,
  (some) => announce(some.length ? words.live.picked(some.length === 1 ? picks.byId.get(some[0].piece)?.piece.name || words.picked.unnamed : words.picked.several(some.length, picks.pieces.length)) : words.live.letGo),
)
watch(
  () => bench.look,
  (look) => announce(words.live.look(words.looks[look].name)),
)
watch(
  () => !!jobs.job?.is_demo && !!drawing.drawn.length,
  (there) => tour.arrive(there),
)

/** Whoever comes back to this window sees what happened in others meanwhile. */
function returned() {
  if (document.visibilityState === 'visible' && jobs.job && !jobs.busy && !jobs.overtaken) void jobs.refresh()
}
onMounted(() => {
  if (station.value !== 'intake') bench.look = 'lines'
  void load()
  document.addEventListener('visibilitychange', returned)
})
const sendAgain = () => void jobs.unsent?.again()
onMounted(() => window.addEventListener('online', sendAgain))
onUnmounted(() => {
  window.removeEventListener('online', sendAgain)
  tour.arrive(false)
  document.removeEventListener('visibilitychange', returned)
  bench.clear()
  picks.clear()
  trace.close()
})

const LEVELS: Level[] = ['piece', 'outline', 'node']
/** The station before or after this one, of those on the route; the page may still be on its way to that. */
let heading = ''
watch(station, () => (heading = ''))
function toStation(by: 1 | -1) {
  const there = STATIONS.filter((one) => one.id !== 'trace' || station.value === 'trace' || drawing.drawing?.pictures.length)
  const next = there[there.findIndex((one) => one.id === (heading || station.value)) + by]
  if (!next) return
  heading = next.id
  void router.push({ name: 'bench', params: { job: props.job, station: next.id } })
}

/** What is out is put away, one thing after the other. */
function putAway() {
  if (bench.ruler) bench.ruler = false
  else if (bench.loupe) bench.loupe = false
  else if (picks.picks.length) picks.clear()
  else if (bench.reopened) bench.reopened = ''
  else if (bench.second) bench.compare(null)
  else bench.list = false
}
useKeys({
  '1': () => (bench.look = 'art'),
  '2': () => (bench.look = 'lines'),
  '3': () => (bench.look = 'weeded'),
  '4': () => (bench.look = 'spread'),
  c: bench.toggleCompare,
  l: () => (bench.list = !bench.list),
  g: () => (bench.loupe = !bench.loupe),
  r: () => (bench.ruler = !bench.ruler),
  ',': () => picks.step(-1),
  '.': () => picks.step(1),
  o: () => (picks.level = LEVELS[(LEVELS.indexOf(picks.level) + 1) % LEVELS.length]),
  h: () => picks.pieces.length && void jobs.setPieces(words.picked.hiding, picks.pieces, { hidden: true }),
  '[': () => toStation(-1),
  ']': () => toStation(1),
  'ctrl+a': () => picks.pickAll(),
  escape: putAway,
  '0': () => canvas.value?.showAll(),
  '+': () => canvas.value?.zoom(1.4),
  '=': () => canvas.value?.zoom(1.4),
  '-': () => canvas.value?.zoom(1 / 1.4),
  'ctrl+z': () => jobs.job?.can_undo && void jobs.move('undo'),
  'ctrl+shift+z': () => jobs.job?.can_redo && void jobs.move('redo'),
  'ctrl+y': () => jobs.job?.can_redo && void jobs.move('redo'),
})
/** Files for the bench, however they come; what is dropped while others come in is not taken. */
function bring(files: File[]) {
  if (jobs.job && !jobs.busy && !intake.going) void intake.take(files)
}
const { over, handlers } = useDrop(bring)
usePaste(bring)
</script>

<template>
  <div class="bench" v-bind="handlers">
    <TopBar />
    <RouteRail v-if="jobs.job" :station="station" :job="job" />
    <div v-else class="rail" />
    <main class="middle" :class="{ hand: picks.picks.length && !tracing && !proving }">
      <div v-if="drawing.drawing && jobs.job" class="stage">
        <WorkCanvas
          v-if="jobs.head!.steps.length"
          ref="canvas"
          :drawing="drawing.drawing"
          :sides="sides"
          :split="split"
          :findings="marked"
          :finding="bench.picked"
          :preview="bench.preview"
          :reach="reach"
          :job="job"
          :tracing="tracing"
          :per-node-mm="perNodeMm"
          :loupe="bench.loupe"
          :measuring="bench.ruler"
          @finding="bench.picked = $event"
          @split="split = $event"
        />
        <p v-else class="nothing quiet">{{ words.bench.empty }}</p>
        <template v-if="jobs.head!.steps.length && !tracing && !proving">
          <LookSwitch />
          <RulerNote v-if="bench.ruler" />
          <PickedBar v-else-if="picks.picks.length" />
          <WeededNote v-else />
        </template>
      </div>
      <div v-else-if="!jobs.problem" class="nothing"><v-progress-circular indeterminate color="primary" /></div>
      <div v-if="over" class="drop">{{ words.bench.drop }}</div>
      <BenchNotices />
    </main>
    <ReadOut :percent="percent" :tracing="!!tracing" @zoom="canvas?.zoom($event)" @all="canvas?.showAll()" />
    <TourCard />
    <ArchiveDialog />
    <aside class="side">
      <SideTabs v-if="drawing.drawn.length" :station="stationName" />
      <component :is="panel" v-if="jobs.job" />
    </aside>
  </div>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template: 48px 1fr 34px / 248px 1fr 324px;
  grid-template-areas: 'bar bar bar' 'route middle side' 'route read side';
  height: 100vh;
  min-height: 0;
}
.bench > :deep(.bar) {
  grid-area: bar;
}
.bench > :deep(.route),
.rail {
  grid-area: route;
}
.bench > :deep(.readout) {
  grid-area: read;
}
.rail {
  background: var(--panel);
  border-right: 1px solid var(--rule);
}
.middle {
  grid-area: middle;
  position: relative;
  min-width: 0;
  min-height: 0;
  overflow: hidden;
  background: var(--ground);
}
/* What went wrong is said above what is picked. */
.hand > :deep(.notices) {
  bottom: 110px;
}
.stage {
  position: absolute;
  inset: 0;
}
.side {
  grid-area: side;
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: var(--panel);
}
.side > :deep(.panel) {
  flex: 1;
}
.nothing {
  height: 100%;
  display: grid;
  place-items: center;
}
.drop {
  position: absolute;
  inset: 12px;
  display: grid;
  place-items: center;
  border: 2px dashed var(--ink);
  border-radius: 10px;
  background: var(--panel);
  opacity: 0.92;
  font-weight: 600;
  pointer-events: none;
}
@media (max-width: 1100px) {
  .bench {
    grid-template-columns: 196px 1fr 296px;
  }
}
@media (min-width: 1900px) {
  .bench {
    grid-template-columns: 288px 1fr 380px;
  }
}
/* Enlarged to twice its size, or on a small screen: one thing below the other, and the page scrolls. */
@media (max-width: 820px) {
  .bench {
    grid-template: 48px auto minmax(340px, 62vh) 34px auto / 1fr;
    grid-template-areas: 'bar' 'route' 'middle' 'read' 'side';
    height: auto;
  }
  .bench > :deep(.bar) .made,
  .bench > :deep(.bar) .kept {
    display: none;
  }
}
</style>
