<script setup lang="ts">
import { computed, onMounted, onUnmounted, ref, watch } from 'vue'

import { Refused } from '@/api/client'
import type { Station } from '@/api/types'
import ArchiveDialog from '@/bench/ArchiveDialog.vue'
import BenchNotices from '@/bench/BenchNotices.vue'
import LookSwitch from '@/bench/LookSwitch.vue'
import PickedBar from '@/bench/PickedBar.vue'
import RulerNote from '@/bench/RulerNote.vue'
import SideTabs from '@/bench/SideTabs.vue'
import TourCard from '@/bench/TourCard.vue'
import WeededNote from '@/bench/WeededNote.vue'
import { STATIONS } from '@/bench/stations'
import BuildPanel from '@/bench/panels/BuildPanel.vue'
import CheckPanel from '@/bench/panels/CheckPanel.vue'
import HandoverPanel from '@/bench/panels/HandoverPanel.vue'
import IntakePanel from '@/bench/panels/IntakePanel.vue'
import SizePanel from '@/bench/panels/SizePanel.vue'
import SheetPanel from '@/bench/panels/SheetPanel.vue'
import WorkingPanel from '@/bench/panels/WorkingPanel.vue'
import WorkingBoard from '@/bench/working/WorkingBoard.vue'
import SheetBoard from '@/bench/sheets/SheetBoard.vue'
import PiecesPanel from '@/bench/panels/PiecesPanel.vue'
import DraftPanel from '@/bench/panels/DraftPanel.vue'
import TracePanel from '@/bench/panels/TracePanel.vue'
import StatusBar from '@/bench/StatusBar.vue'
import RouteRail from '@/bench/RouteRail.vue'
import TraceBar from '@/bench/TraceBar.vue'
import TopBar from '@/bench/TopBar.vue'
import WorkCanvas from '@/canvas/WorkCanvas.vue'
import { useBenchKeys } from '@/composables/benchKeys'
import { useDrop } from '@/composables/drop'
import { usePaste } from '@/composables/paste'
import { useReturning } from '@/composables/returning'
import { useSaid } from '@/composables/said'
import { useSettling } from '@/composables/settling'
import { useSides, type Seen } from '@/composables/sides'
import { useTour } from '@/composables/tour'
import { useTraced } from '@/composables/traced'
import { useUntraced } from '@/composables/untraced'
import { useBench } from '@/stores/bench'
import { SIZING, useDraft } from '@/stores/draft'
import { useDrawing } from '@/stores/drawing'
import { useIntake } from '@/stores/intake'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { usePicks } from '@/stores/picks'
import { useSheets } from '@/stores/sheets'
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
const draft = useDraft()
const sheets = useSheets()
const tour = useTour()
/** What shows the work, and what of it keys and buttons move. */
interface Stage {
  percent: number
  zoom: (factor: number) => void
  showAll: () => void
  trueSize?: () => void
  fly?: (box: [number, number, number, number]) => void
}
const canvas = ref<Stage | null>(null)

const PANELS = {
  intake: IntakePanel,
  trace: TracePanel,
  check: CheckPanel,
  build: BuildPanel,
  size: SizePanel,
  sheet: SheetPanel,
  proof: WorkingPanel,
  handover: HandoverPanel,
}
const panel = computed(() => {
  if (bench.list) return PiecesPanel
  return bench.reopened && draft.operation ? DraftPanel : PANELS[station.value]
})
const stationName = computed(() => STATIONS.find((one) => one.id === station.value)?.name ?? '')
const percent = computed(() => canvas.value?.percent ?? 100)
const reach = computed<[number, number] | null>(() => {
  const machine = library.library.machines.find((m) => m.id === jobs.head?.settings.machine)
  return machine ? [machine.reach_width_mm, machine.reach_height_mm] : null
})
/** Findings are numbered on the work where they are worked on; the proof has the sheet to itself. */
const marked = computed(() => (station.value === 'check' && bench.look !== 'spread' ? jobs.open : []))

const { untraced } = useUntraced()
/** Pictures that nothing would be seen of on white. */
const pale = computed(() => jobs.findings.filter((f) => f.id === 'white-on-clear').flatMap((f) => f.pieces))
watch(
  () => bench.wantsAll,
  () => canvas.value?.showAll(),
)
watch(
  () => bench.wantsTrueSize,
  () => canvas.value?.trueSize?.(),
)
watch(
  () => bench.flyTo,
  (place) => place && canvas.value?.fly?.(place),
)

async function load() {
  drawing.clear()
  bench.clear()
  // A job that was on the bench before is there already, with the same document.
  if (jobs.job?.id === props.job) draw()
  await Promise.all([jobs.load(props.job), library.load(true).catch(() => {})])
  draw()
  if (jobs.job) void intake.goOn()
}
watch(() => props.job, load)
const { documentShown, tracing } = useTraced(() => props.job, station)
const proving = computed(() => station.value === 'handover' && !!bench.proof)
/** At the station Sheet the sheets are seen, as soon as there are some. */
const laying = computed(() => station.value === 'sheet' && !bench.list && !!sheets.shown.length)
/** At the station Proof the tool's way is seen. */
const working = computed(() => station.value === 'proof' && !bench.list && !!jobs.head?.statistics.pieces)
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
const perNodeMm = computed(() => (jobs.head?.statistics.line_mm ?? 0) / Math.max(jobs.head?.statistics.nodes ?? 0, 1))
function draw() {
  const document = documentShown.value
  if (document) drawing.load(document).catch((e) => (jobs.problem = e instanceof Refused ? e.sentence : String(e)))
}
watch(documentShown, draw)
watch(
  () => jobs.job?.name,
  (name) => (document.title = name ? `${name}, Hakobu` : 'Hakobu'),
)

useSettling(station)
useReturning()
useSaid()
watch(
  () => !!jobs.job?.is_demo && !!drawing.drawn.length,
  (there) => tour.arrive(there),
)

onMounted(() => {
  if (station.value !== 'intake') bench.look = 'lines'
  void load()
})
onUnmounted(() => {
  tour.arrive(false)
  bench.clear()
  picks.clear()
  trace.close()
})

/** Something is there, or is being set up. */
const begun = computed(() => !!jobs.head?.steps.length || !!draft.shown)
/** A design that has no page yet, or gets another size, is seen on the one that the step that is set up would give it. */
const onPage = computed(() => {
  const now = drawing.drawing
  const page = draft.shown?.page
  const sized = !!draft.operation && SIZING.includes(draft.operation.id)
  return now && page && (!now.page || sized) ? { ...now, page, frame: page, box: sized ? null : now.box } : now
})

useBenchKeys(() => props.job, station, canvas)
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
        <SheetBoard v-if="laying" />
        <WorkingBoard v-else-if="working" ref="canvas" />
        <WorkCanvas
          v-else-if="begun"
          ref="canvas"
          :drawing="onPage!"
          :sides="sides"
          :split="split"
          :findings="marked"
          :finding="bench.picked"
          :preview="bench.preview"
          :reach="reach"
          :job="job"
          :tracing="tracing"
          :pale="pale"
          :per-node-mm="perNodeMm"
          :loupe="bench.loupe"
          :measuring="bench.ruler"
          @finding="bench.picked = $event"
          @split="split = $event"
        />
        <p v-else class="nothing quiet">{{ words.bench.empty }}</p>
        <TraceBar v-if="tracing && trace.shown" />
        <template v-if="begun && !tracing && !proving && !laying && !working">
          <LookSwitch />
          <RulerNote v-if="bench.ruler" />
          <PickedBar v-else-if="picks.picks.length" />
          <WeededNote v-else />
        </template>
      </div>
      <div v-else-if="!jobs.problem" class="nothing">
        <v-progress-circular :aria-label="words.notices.howFar" indeterminate color="primary" />
      </div>
      <div v-if="over" class="drop">{{ words.bench.drop }}</div>
      <BenchNotices @again="load" />
    </main>
    <StatusBar :percent="percent" :tracing="tracing" @zoom="canvas?.zoom($event)" @all="canvas?.showAll()" />
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
