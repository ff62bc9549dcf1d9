<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

import { client, formOf, want } from '@/api/client'
import { jobAfter, stop, Stopped } from '@/api/runs'
import type { Job, JobListed, Run } from '@/api/types'
import ArchiveDialog from '@/bench/ArchiveDialog.vue'
import HelpButton from '@/bench/HelpButton.vue'
import LanternMark from '@/bench/LanternMark.vue'
import OneOrEach from '@/bench/OneOrEach.vue'
import RefusedFiles from '@/bench/RefusedFiles.vue'
import ShadeButton from '@/bench/ShadeButton.vue'
import SketchPicture from '@/canvas/SketchPicture.vue'
import { useDrop } from '@/composables/drop'
import { mm } from '@/composables/lengths'
import { usePaste } from '@/composables/paste'
import { when } from '@/composables/times'
import { sentenceOf, useIntake, type Coming } from '@/stores/intake'
import { words } from '@/words'

const w = words.jobList
const router = useRouter()
const intake = useIntake()
const jobs = shallowRef<JobListed[] | null>(null)
const problem = ref('')
const reading = ref('')
const run = shallowRef<Run | null>(null)
const busy = computed(() => reading.value || intake.unpacking)
const chooser = ref<HTMLInputElement | null>(null)

async function load() {
  problem.value = ''
  try {
    jobs.value = await want(client.GET('/api/jobs'))
  } catch (error) {
    problem.value = sentenceOf(error)
  }
}
onMounted(() => {
  document.title = w.title
  void load()
})

async function create(coming: Coming): Promise<Job> {
  const { file, staged } = coming
  reading.value = coming.name
  const answer = await want(
    client.POST('/api/jobs', { body: { file: file as never, staged }, bodySerializer: () => formOf({ file, staged }) }),
  )
  return jobAfter(answer, (now) => (run.value = now))
}

/** A job from files, or a job for each of them; the others follow when the bench has opened. */
async function begin(files: File[]) {
  if (reading.value || intake.unpacking) return
  problem.value = ''
  const coming = await intake.gather(files)
  if (!coming.length) return
  const way = coming.length > 1 ? await intake.oneOrEach(coming) : 'one'
  if (way === 'one') await open(coming)
  if (way === 'each') await openEach(coming)
}

async function open(coming: Coming[]) {
  try {
    // The first that can be read makes the job.
    while (coming.length) {
      const [first, ...others] = coming
      coming = others
      try {
        const job = await create(first)
        intake.rest = others
        return await router.push({ name: 'bench', params: { job: job.id } })
      } catch (error) {
        if (error instanceof Stopped) return
        intake.refuse(first.name, sentenceOf(error))
      }
    }
  } finally {
    run.value = null
    reading.value = ''
  }
}

async function openEach(coming: Coming[]) {
  for (const each of coming) {
    try {
      await create(each)
    } catch (error) {
      if (error instanceof Stopped) break
      intake.refuse(each.name, sentenceOf(error))
    }
  }
  run.value = null
  reading.value = ''
  await load()
}
const { over, handlers } = useDrop((files) => void begin(files))
usePaste((files) => void begin(files))

function chosen(event: Event) {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  if (files.length) void begin(files)
}
</script>

<template>
  <div class="jobs page" v-bind="handlers">
    <header>
      <LanternMark />
      <h1>{{ w.heading }}</h1>
      <span class="spring" />
      <router-link :to="{ name: 'lists' }" class="quiet">{{ words.lists.heading }}</router-link>
      <ShadeButton />
      <HelpButton />
    </header>
    <main>
      <div v-if="problem" class="problem" role="alert">
        <span>{{ problem }}</span>
        <v-btn v-if="!jobs" size="small" variant="text" @click="load">{{ w.again }}</v-btn>
        <v-btn v-else size="small" variant="text" @click="problem = ''">{{ words.common.close }}</v-btn>
      </div>
      <RefusedFiles />
      <button class="begin" :class="{ over }" :disabled="!!busy" @click="chooser?.click()">
        <v-icon :icon="mdiPlus" size="22" />
        <span class="words">
          <strong>{{ busy ? w.reading(busy) : w.drop }}</strong>
          <span class="quiet"
            >{{ w.formats }}</span
          >
        </span>
        <v-progress-linear v-if="busy" :aria-label="words.notices.howFar" class="progress" indeterminate color="primary" height="3" />
      </button>
      <v-btn v-if="run" class="stop" size="small" variant="outlined" @click="stop(run)">{{ w.stop }}</v-btn>
      <input ref="chooser" class="unseen" type="file" multiple tabindex="-1" :aria-label="w.choose" @change="chosen" />
      <ul v-if="jobs?.length" class="list">
        <li v-for="job in jobs" :key="job.id">
          <router-link :to="{ name: 'bench', params: { job: job.id, station: job.station } }" class="job">
            <div class="picture"><SketchPicture :document="job.document" :job="job.id" /></div>
            <div class="about">
              <h2>{{ job.name }}</h2>
              <p class="quiet small">
                <template v-if="job.pieces">
                  {{ mm(job.width_mm) }} × {{ mm(job.height_mm) }} mm · {{ words.source.pieces(job.pieces) }}
                </template>
                <template v-else-if="job.width_mm">
                  {{ w.picture }} {{ mm(job.width_mm) }} × {{ mm(job.height_mm) }} mm
                </template>
                <template v-else>{{ w.empty }}</template>
              </p>
              <p class="small foot">
                <span class="quiet">{{ when(job.changed) }}</span>
                <span v-if="job.doubted" class="waiting">{{ w.doubted }}</span>
                <span v-else-if="job.waiting" class="waiting">{{ w.toMend(job.waiting) }}</span>
                <span v-else-if="job.waiting === null" class="quiet">{{ w.unchecked }}</span>
                <span v-else-if="job.pieces" class="clean">{{ w.clean }}</span>
              </p>
            </div>
          </router-link>
        </li>
      </ul>
      <p v-else-if="jobs" class="none quiet">{{ w.none }}</p>
      <v-progress-linear v-else-if="!problem" :aria-label="words.notices.howFar" indeterminate color="primary" height="3" />
    </main>
    <ArchiveDialog />
    <OneOrEach />
  </div>
</template>

<style scoped>
.begin {
  position: relative;
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 20px 24px;
  border: 2px dashed var(--edge);
  border-radius: 10px;
  background: var(--panel);
  text-align: left;
  cursor: pointer;
  overflow: hidden;
}
.begin:hover,
.begin.over {
  border-color: var(--ink);
  background: var(--raised);
}
.words {
  display: grid;
}
.progress {
  position: absolute;
  inset: auto 0 0 0;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 24px;
}
.job {
  display: grid;
  grid-template-rows: 176px auto;
  height: 100%;
  color: inherit;
  text-decoration: none;
  border-radius: 10px;
  background: var(--panel);
  border: 1px solid var(--rule);
  overflow: hidden;
}
.job:hover {
  border-color: var(--ink);
}
.picture {
  background: #fffdf7;
  padding: 14px;
  min-height: 0;
  border-bottom: 1px solid var(--rule);
}
.about {
  padding: 12px 16px 14px;
  display: grid;
  gap: 4px;
  align-content: start;
}
h2 {
  font-size: 17px;
  overflow-wrap: anywhere;
}
.foot {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
}
.waiting,
.clean {
  border-radius: 9px;
  padding: 0 8px;
  font-weight: 600;
}
.waiting {
  background: var(--flag-ground);
  color: var(--flag);
}
.clean {
  background: var(--good-ground);
  color: var(--good);
}
.none {
  text-align: center;
  padding: 32px;
}
</style>
