<script setup lang="ts">
import { mdiAlertOutline, mdiCheck, mdiDownload } from '@mdi/js'
import { computed, onMounted, watch } from 'vue'

import { timeOf } from '@/composables/times'
import { useUnits } from '@/composables/units'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { useSheets } from '@/stores/sheets'
import { useWorking } from '@/stores/working'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import PanelFrame from '../PanelFrame.vue'
import TickField from '../TickField.vue'
import SendingCard from '../working/SendingCard.vue'
import WorkOrder from '../working/WorkOrder.vue'

/** What the machine does with the job: proven, what it takes, and in which order. */
const working = useWorking()
const jobs = useJob()
const sheets = useSheets()
const library = useLibrary()
const units = useUnits()
const w = words.working

const empty = computed(() => !jobs.head?.statistics.pieces)
const program = computed(() => working.shown?.program)
const format = computed(() => library.library.formats.find((one) => one.id === program.value?.format)?.name ?? '')
const proof = computed(() => program.value?.proof)
const partly = computed(() => working.from > 0 || working.done.length > 0)

async function enter() {
  if (empty.value) return
  await sheets.load()
  // Sheets are what is worked, as soon as there are some.
  if (sheets.shown.length && !working.sheet) working.sheet = 1
  if (working.sheet > sheets.shown.length) working.sheet = sheets.shown.length ? 1 : 0
  await working.load()
}
onMounted(() => void enter())
watch(() => jobs.head?.id, enter)
function choose(nth: number) {
  working.sheet = nth
  void working.load()
}
</script>

<template>
  <PanelFrame :title="words.stations.proof">
    <template #head>
      <p v-if="empty" class="quiet">{{ w.empty }}</p>
      <template v-else>
        <label v-if="sheets.shown.length" class="row small">
          <span>{{ w.what }}</span>
          <select :value="working.sheet" @change="choose(Number(($event.target as HTMLSelectElement).value))">
            <option v-for="(one, k) in sheets.shown" :key="one.own" :value="k + 1">{{ w.sheet(one.name) }}</option>
            <option :value="0">{{ w.design }}</option>
          </select>
        </label>
        <p v-if="program?.machine" class="small quiet">{{ w.machine(program.machine.name) }}</p>
        <p v-else-if="program" class="small quiet">
          {{ w.noMachine }}
          <router-link :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'intake' } }">{{ w.choose }}</router-link>
        </p>
      </template>
    </template>
    <p v-if="working.problem" class="wrong pad" role="alert">{{ working.problem }}</p>
    <div v-else-if="working.loading && !program" class="pad small quiet" role="status">
      {{ w.reckoning }}
      <v-progress-linear :aria-label="w.reckoning" indeterminate color="primary" height="3" />
    </div>
    <template v-if="program && !empty">
      <div class="proof" :class="{ bad: proof && !proof.holds }" role="status">
        <p v-if="!proof" class="quiet">{{ w.none }}</p>
        <template v-else>
          <p class="head">
            <v-icon :icon="proof.holds ? mdiCheck : mdiAlertOutline" size="20" />
            {{ proof.holds ? w.holds((proof.max_deviation_mm ?? 0).toFixed(3)) : w.wrong(proof.missing, proof.extra) }}
          </p>
          <p v-if="program.compensation?.kerf_off_mm != null" class="small">{{ w.kerf(program.compensation.kerf_off_mm.toFixed(3)) }}</p>
          <p v-if="program.compensation?.tip_off_mm != null" class="small">{{ w.tip(program.compensation.tip_off_mm.toFixed(3)) }}</p>
        </template>
      </div>
      <dl class="figures">
        <dt>{{ w.time }}</dt>
        <dd>{{ timeOf(program.seconds) }}</dd>
        <dt>{{ w.line }}</dt>
        <dd>{{ units.line(program.line_mm) }}</dd>
        <dt>{{ w.travel }}</dt>
        <dd>{{ units.line(program.travel_mm) }}</dd>
        <dt>{{ w.lifts }}</dt>
        <dd>{{ program.lifts }}</dd>
        <template v-if="program.changes">
          <dt>{{ w.changes }}</dt>
          <dd>{{ program.changes }}</dd>
        </template>
      </dl>
      <SendingCard />
      <section v-if="program.findings.length" class="pad">
        <h3 class="small">{{ w.cannot }}</h3>
        <ul class="said">
          <li v-for="(one, n) in program.findings" :key="n" class="small" :class="one.level">{{ one.message }}</li>
        </ul>
      </section>
      <div class="folds">
        <FoldPart :name="w.tools" :set="false">
          <ul class="tools small">
            <li v-for="(tool, n) in program.tools" :key="n">
              <i class="swatch" :style="{ background: tool.color }" />
              <span
                >{{ tool.number }}, {{ tool.layer }}: {{ words.treatments[tool.treatment].name.toLowerCase()
                }}<template v-if="tool.speed_mm_s">, {{ tool.speed_mm_s }} mm/s</template
                ><template v-if="tool.force_g">, {{ tool.force_g }} g</template
                ><template v-if="tool.power_percent != null">, {{ tool.power_percent }} %</template
                ><template v-if="tool.passes > 1">, {{ w.passes(tool.passes) }}</template></span
              >
            </li>
          </ul>
        </FoldPart>
        <FoldPart :name="w.shows" :set="false">
          <TickField :label="w.showTravel" :value="working.travel" @take="working.travel = $event" />
          <TickField :label="w.showNumbers" :value="working.numbers" @take="working.numbers = $event" />
          <TickField :label="w.showSpeed" :value="working.speed" @take="working.speed = $event" />
        </FoldPart>
      </div>
      <WorkOrder />
    </template>
    <template v-if="program && !empty" #foot>
      <p v-if="partly" class="small quiet">{{ w.part(timeOf(working.seconds)) }}</p>
      <v-btn color="primary" size="large" block :prepend-icon="mdiDownload" :href="working.address" download>{{ w.write(format) }}</v-btn>
    </template>
  </PanelFrame>
</template>

<style scoped>
p {
  margin: 0;
}
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 10px;
}
select {
  height: 30px;
  max-width: 190px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
.pad {
  padding: 12px 18px;
}
.proof {
  margin: 12px 18px;
  padding: 10px 12px;
  border-radius: 8px;
  background: var(--good-ground);
  display: grid;
  gap: 4px;
}
.proof.bad {
  background: var(--flag-ground);
}
.head {
  display: flex;
  gap: 8px;
  font-weight: 600;
}
.figures {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 14px;
  margin: 0;
  padding: 4px 18px 12px;
}
dt {
  color: var(--ink-2);
}
dd {
  margin: 0;
  text-align: right;
  font-variant-numeric: tabular-nums;
}
.said,
.tools {
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
  display: grid;
  gap: 6px;
}
.folds {
  padding: 0 18px;
}
.small a {
  color: inherit;
}
.tools li {
  display: flex;
  gap: 8px;
  align-items: center;
}
.swatch {
  flex: none;
  width: 14px;
  height: 14px;
  border-radius: 4px;
  border: 1px solid var(--edge);
}
h3 {
  margin: 0;
}
.stops,
.wrong {
  color: var(--flag);
}
</style>
