<script setup lang="ts">
import { mdiPlus } from '@mdi/js'
import { onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

import { client, formOf, Refused, want } from '@/api/client'
import { jobAfter, stop, Stopped } from '@/api/runs'
import type { JobListed, Run } from '@/api/types'
import HelpButton from '@/bench/HelpButton.vue'
import LanternMark from '@/bench/LanternMark.vue'
import ShadeButton from '@/bench/ShadeButton.vue'
import SketchPicture from '@/canvas/SketchPicture.vue'
import { useDrop } from '@/composables/drop'
import { count, mm } from '@/composables/lengths'
import { when } from '@/composables/times'

const router = useRouter()
const jobs = shallowRef<JobListed[] | null>(null)
const problem = ref('')
const reading = ref('')
const run = shallowRef<Run | null>(null)
const chooser = ref<HTMLInputElement | null>(null)

async function load() {
  problem.value = ''
  try {
    jobs.value = await want(client.GET('/api/jobs'))
  } catch (error) {
    problem.value = error instanceof Refused ? error.sentence : String(error)
  }
}
onMounted(() => {
  document.title = 'Jobs, Hakobu'
  void load()
})

async function begin(file: File) {
  if (reading.value) return
  reading.value = file.name
  problem.value = ''
  try {
    const answer = await want(
      client.POST('/api/jobs', { body: { file: file as never }, bodySerializer: (b) => formOf({ file: b.file as never }) }),
    )
    const job = await jobAfter(answer, (now) => (run.value = now))
    await router.push({ name: 'bench', params: { job: job.id } })
  } catch (error) {
    if (!(error instanceof Stopped)) problem.value = error instanceof Refused ? error.sentence : String(error)
  } finally {
    run.value = null
    reading.value = ''
  }
}
const { over, handlers } = useDrop((files) => void begin(files[0]))

function chosen(event: Event) {
  const input = event.target as HTMLInputElement
  if (input.files?.[0]) void begin(input.files[0])
  input.value = ''
}
</script>

<template>
  <div class="jobs" v-bind="handlers">
    <header>
      <LanternMark />
      <h1>Jobs</h1>
      <span class="spring" />
      <ShadeButton />
      <HelpButton />
    </header>
    <main>
      <div v-if="problem" class="problem" role="alert">
        <span>{{ problem }}</span>
        <v-btn v-if="!jobs" size="small" variant="text" @click="load">Try again</v-btn>
        <v-btn v-else size="small" variant="text" @click="problem = ''">Close</v-btn>
      </div>
      <button class="begin" :class="{ over }" :disabled="!!reading" @click="chooser?.click()">
        <v-icon :icon="mdiPlus" size="22" />
        <span class="words">
          <strong>{{ reading ? `Reading ${reading} ...` : 'Drop a design here, or choose a file' }}</strong>
          <span class="quiet">SVG, DXF, HP-GL, G-code or a picture, at its true size. Nothing leaves this machine.</span>
        </span>
        <v-progress-linear v-if="reading" class="progress" indeterminate color="primary" height="3" />
      </button>
      <v-btn v-if="run" class="stop" size="small" variant="outlined" @click="stop(run)">Stop reading</v-btn>
      <input ref="chooser" class="unseen" type="file" tabindex="-1" aria-label="Choose a design" @change="chosen" />
      <ul v-if="jobs?.length" class="list">
        <li v-for="job in jobs" :key="job.id">
          <router-link :to="{ name: 'bench', params: { job: job.id } }" class="job">
            <div class="picture"><SketchPicture :document="job.document" :job="job.id" /></div>
            <div class="about">
              <h2>{{ job.name }}</h2>
              <p class="quiet small">
                <template v-if="job.pieces">
                  {{ mm(job.width_mm) }} × {{ mm(job.height_mm) }} mm · {{ count(job.pieces, 'piece') }}
                </template>
                <template v-else-if="job.width_mm">
                  a picture, {{ mm(job.width_mm) }} × {{ mm(job.height_mm) }} mm
                </template>
                <template v-else>empty</template>
              </p>
              <p class="small foot">
                <span class="quiet">{{ when(job.changed) }}</span>
                <span v-if="job.waiting" class="waiting">{{ job.waiting }} to mend</span>
                <span v-else-if="job.waiting === null" class="quiet">not checked yet</span>
                <span v-else-if="job.pieces" class="clean">clean</span>
              </p>
            </div>
          </router-link>
        </li>
      </ul>
      <p v-else-if="jobs" class="none quiet">No jobs yet. The first design you drop here becomes one.</p>
      <v-progress-linear v-else-if="!problem" indeterminate color="primary" height="3" />
    </main>
  </div>
</template>

<style scoped>
.jobs {
  display: grid;
  grid-template-rows: 48px 1fr;
  height: 100vh;
}
header {
  display: flex;
  align-items: center;
  gap: 16px;
  padding: 0 16px;
  background: var(--panel);
  border-bottom: 1px solid var(--rule);
}
.spring {
  flex: 1;
}
main {
  overflow: auto;
  padding: 24px 32px 48px;
  display: grid;
  gap: 24px;
  align-content: start;
  max-width: 1180px;
  width: 100%;
  margin: 0 auto;
}
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
.problem {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 16px;
  padding: 10px 16px;
  border-radius: 8px;
  background: var(--flag-ground);
  color: var(--flag);
  font-weight: 600;
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
