<script setup lang="ts">
import { computed, watch } from 'vue'

import { client, want } from '@/api/client'
import { useKeys } from '@/composables/keys'
import { useBench } from '@/stores/bench'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import PanelFrame from '../PanelFrame.vue'
import FindingItem from './FindingItem.vue'

const w = words.check
const jobs = useJob()
const bench = useBench()

const by = (level: string) => jobs.open.filter((f) => f.level === level).length
const stops = computed(() => by('stops'))
const spoils = computed(() => by('spoils'))
const notes = computed(() => by('note'))
const safe = computed(() => jobs.open.filter((f) => f.safe))
const empty = computed(() => !jobs.head?.figures.pieces)

function step(by: number) {
  const keys = jobs.open.map((f) => f.key)
  if (!keys.length) return
  const at = keys.indexOf(bench.picked ?? '')
  bench.picked = keys[at < 0 ? (by > 0 ? 0 : keys.length - 1) : (at + by + keys.length) % keys.length]
}

async function mend(key: string) {
  const at = jobs.open.findIndex((f) => f.key === key)
  const done = await jobs.addStep(words.busy.mending, 'mend', { keys: [key] })
  // The next one comes up by itself, so that a list is gone through with one key.
  if (done) bench.picked = jobs.open[Math.min(at, jobs.open.length - 1)]?.key ?? null
}

async function mendAll() {
  const leave = jobs.aside.map((f) => f.key)
  if (await jobs.addStep(words.busy.mending, 'mend', leave.length ? { leave } : {})) bench.picked = null
}

/** The mend of the picked finding; an answer that comes late for another one is not shown. */
watch(
  () => [bench.picked, jobs.head?.id] as const,
  async ([key, revision]) => {
    bench.preview = null
    const finding = jobs.open.find((f) => f.key === key)
    if (!key || !revision || !finding?.mendable) return
    try {
      const found = await want(
        client.GET('/api/revisions/{revision}/findings/{key}/mend', { params: { path: { revision, key } } }),
      )
      if (bench.picked === key && jobs.head?.id === revision) bench.preview = found
    } catch {
      jobs.problem = w.notShown
    }
  },
  { immediate: true },
)

useKeys({
  n: () => step(1),
  p: () => step(-1),
  m: () => {
    const finding = jobs.open.find((f) => f.key === bench.picked)
    if (finding?.mendable) void mend(finding.key)
  },
})
</script>

<template>
  <PanelFrame :title="words.stations.check">
    <template #head>
      <p v-if="jobs.checking" class="quiet">{{ w.looking }}</p>
      <p v-else-if="empty" class="quiet">{{ w.empty }}</p>
      <p v-else-if="!stops && !spoils" class="clean">
        {{ w.clean }}
        <span v-if="notes" class="quiet also">{{ w.notes(notes) }}.</span>
      </p>
      <p v-else class="pills">
        <span v-if="stops" class="pill stops">{{ w.stops(stops) }}</span>
        <span v-if="spoils" class="pill spoils">{{ w.spoils(spoils) }}</span>
        <span v-if="notes" class="quiet">{{ w.notes(notes) }}</span>
      </p>
    </template>

    <ul class="list">
      <FindingItem
        v-for="finding in jobs.open"
        :key="finding.key"
        :finding="finding"
        :open="bench.picked === finding.key"
        :preview="bench.picked === finding.key ? bench.preview : null"
        :busy="!!jobs.busy"
        @pick="bench.picked = bench.picked === finding.key ? null : finding.key"
        @mend="mend(finding.key)"
        @aside="jobs.setAside(finding.key, true)"
      />
    </ul>
    <details v-if="jobs.aside.length" class="aside">
      <summary>{{ w.aside(jobs.aside.length) }}</summary>
      <ul>
        <li v-for="f in jobs.aside" :key="f.key">
          <span>{{ f.title }}</span>
          <v-btn size="small" variant="text" :disabled="!!jobs.busy" @click="jobs.setAside(f.key, false)">
            {{ w.takeBack }}
          </v-btn>
        </li>
      </ul>
    </details>

    <template v-if="!empty" #foot>
      <template v-if="safe.length">
        <v-btn color="primary" size="large" block :disabled="!!jobs.busy" @click="mendAll">
          {{ w.mendAll(safe.length) }}
        </v-btn>
        <p class="small quiet foot">
          {{ w.safe(jobs.head!.figures.pieces) }}
        </p>
      </template>
      <v-btn
        v-else
        :color="stops || spoils ? undefined : 'primary'"
        :variant="stops || spoils ? 'outlined' : 'flat'"
        size="large"
        block
        :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'handover' } }"
      >
        {{ stops || spoils ? w.onAsItIs : w.on }}
      </v-btn>
    </template>
  </PanelFrame>
</template>

<style scoped>
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
.clean {
  color: var(--good);
  font-weight: 600;
}
.also {
  font-weight: 400;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
.aside {
  padding: 12px 18px;
  color: var(--ink-2);
}
.aside summary {
  cursor: pointer;
}
.aside ul {
  list-style: none;
  margin: 0;
  padding: 8px 0 0;
}
.aside li {
  display: flex;
  justify-content: space-between;
  align-items: center;
}
.foot {
  text-align: center;
}
</style>
