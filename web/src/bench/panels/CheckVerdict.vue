<script setup lang="ts">
import { computed } from 'vue'

import { lineLength, mm } from '@/composables/lengths'
import { numberOf } from '@/composables/numberOf'
import { useBench } from '@/stores/bench'
import { useCheck } from '@/stores/check'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { words } from '@/words'

/** Will it hold together? The answer first; then what was found, in numbers. */
const w = words.check
const jobs = useJob()
const bench = useBench()
const check = useCheck()
const library = useLibrary()
const by = (level: string) => numberOf(jobs.open.filter((f) => f.level === level))
const stops = computed(() => by('stops'))
const spoils = computed(() => by('spoils'))
const notes = computed(() => by('note'))
const clean = computed(() => !stops.value && !spoils.value)
const saved = computed(() => {
  const v = check.verdict
  if (!clean.value || !v || (v.saved_nodes <= 0 && v.saved_line_mm <= 0)) return ''
  const line = Math.max(v.saved_line_mm, 0)
  const speed = library.library.machines.find((m) => m.id === jobs.head?.settings.machine)?.speed_mm_s
  return w.saved(Math.max(v.saved_nodes, 0), mm(line), speed ? line / speed : 0)
})
/** What makes it fall apart can be joined at once. */
const APART = ['drop-out', 'not-one']
const apart = computed(() =>
  check.verdict?.holds === false ? check.kinds.find((kind) => APART.includes(kind.id) && kind.findings.some((f) => f.mendable)) : undefined,
)
/** Flies to the weakest place. */
function show() {
  const place = check.verdict?.place
  if (place) bench.flyTo = [place[0] - 5, place[1] - 5, place[0] + 5, place[1] + 5]
}
</script>

<template>
  <div class="verdict">
    <button v-if="check.verdict?.place" class="answer place" :class="{ bad: check.verdict.holds === false }" @click="show">
      {{ check.verdict.sentence }} <span class="go">{{ w.showPlace }}</span>
    </button>
    <p v-else-if="check.verdict" class="answer" :class="{ bad: check.verdict.holds === false }">{{ check.verdict.sentence }}</p>
    <p v-else-if="check.noAnswer" class="quiet">
      {{ w.noAnswer }} {{ check.noAnswer }} <button class="again" @click="check.answer">{{ w.again }}</button>
    </p>
    <v-btn v-if="apart" class="join" size="small" variant="outlined" :disabled="!!jobs.busy" @click="check.mendKind(apart)">{{
      w.joinParts(apart.findings.length + apart.more)
    }}</v-btn>
    <p v-if="clean" class="clean">
      {{ w.clean }} {{ w.toCut(lineLength(jobs.head!.statistics.line_mm)) }}
      <span v-if="notes" class="quiet also">{{ w.notes(notes) }}.</span>
    </p>
    <p v-if="saved" class="quiet small">{{ saved }}</p>
    <p v-if="!clean" class="pills">
      <span v-if="stops" class="pill stops">{{ w.stops(stops) }}</span>
      <span v-if="spoils" class="pill spoils">{{ w.spoils(spoils) }}</span>
      <span v-if="notes" class="quiet">{{ w.notes(notes) }}</span>
    </p>
  </div>
</template>

<style scoped>
.verdict {
  display: grid;
  gap: 6px;
}
.join {
  justify-self: start;
}
.answer {
  margin: 0;
  font-size: 15px;
  font-weight: 650;
  line-height: 1.35;
  color: var(--ink);
  text-align: left;
}
.place {
  padding: 0;
  border: 0;
  background: none;
  font-family: inherit;
  cursor: pointer;
}
.go {
  font-weight: 400;
  font-size: 13px;
  text-decoration: underline;
  color: var(--ink-2);
  white-space: nowrap;
}
.again {
  padding: 0;
  border: 0;
  background: none;
  text-decoration: underline;
  cursor: pointer;
}
.bad {
  color: var(--flag);
}
.clean {
  color: var(--good);
  font-weight: 600;
}
.also {
  font-weight: 400;
}
.pills {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
  font-size: 12.5px;
}
.pill {
  padding: 0 9px;
  border-radius: 10px;
  font-weight: 700;
  color: var(--flag);
}
.pill.stops {
  background: var(--flag);
  color: var(--on-flag);
}
.pill.spoils {
  box-shadow: inset 0 0 0 1.6px var(--flag);
}
</style>
