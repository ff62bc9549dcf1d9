<script setup lang="ts">
import { mdiFormatText, mdiPlus } from '@mdi/js'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'

import { client, formOf, want } from '@/api/client'
import { jobAfter, stop, Stopped } from '@/api/runs'
import type { Job, Run } from '@/api/types'
import ArchiveDialog from '@/bench/ArchiveDialog.vue'
import HelpButton from '@/bench/HelpButton.vue'
import LanternMark from '@/bench/LanternMark.vue'
import OneOrEach from '@/bench/OneOrEach.vue'
import RefusedFiles from '@/bench/RefusedFiles.vue'
import ShadeButton from '@/bench/ShadeButton.vue'
import JobCard from '@/bench/jobs/JobCard.vue'
import JobsBar from '@/bench/jobs/JobsBar.vue'
import { useDrop } from '@/composables/drop'
import { usePaste } from '@/composables/paste'
import { sentenceOf, useIntake, type Coming } from '@/stores/intake'
import { useJobList } from '@/stores/jobList'
import { words } from '@/words'

const w = words.jobList
const router = useRouter()
const intake = useIntake()
const list = useJobList()
const reading = ref('')
const run = shallowRef<Run | null>(null)
const busy = computed(() => reading.value || intake.unpacking)
const chooser = ref<HTMLInputElement | null>(null)

onMounted(() => {
  document.title = w.title
  list.selectAll(false)
  void list.load()
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
  list.problem = ''
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
  await list.load()
}
const { over, handlers } = useDrop((files) => void begin(files))
usePaste((files) => void begin(files))

/** A job that begins with nothing but the wish for words. */
async function beginWithWords() {
  try {
    const job = await want(client.POST('/api/jobs/empty', { body: { name: words.lettering.newJob } }))
    await router.push({ name: 'bench', params: { job: job.id, station: 'build' }, query: { begin: 'words' } })
  } catch (error) {
    list.problem = sentenceOf(error)
  }
}

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
      <div v-if="list.problem" class="problem" role="alert">
        <span>{{ list.problem }}</span>
        <v-btn v-if="!list.jobs" size="small" variant="text" @click="list.load()">{{ w.again }}</v-btn>
        <v-btn v-else size="small" variant="text" @click="list.problem = ''">{{ words.common.close }}</v-btn>
      </div>
      <RefusedFiles />
      <div class="starts">
        <button class="begin" :class="{ over }" :disabled="!!busy" @click="chooser?.click()">
          <v-icon :icon="mdiPlus" size="22" />
          <span class="words">
            <strong>{{ busy ? w.reading(busy) : w.drop }}</strong>
            <span class="quiet">{{ w.formats }}</span>
          </span>
          <v-progress-linear v-if="busy" :aria-label="words.notices.howFar" class="progress" indeterminate color="primary" height="3" />
        </button>
        <button class="begin other" :disabled="!!busy" @click="beginWithWords">
          <v-icon :icon="mdiFormatText" size="22" />
          <strong>{{ words.lettering.begin }}</strong>
        </button>
      </div>
      <v-btn v-if="run" class="stop" size="small" variant="outlined" @click="stop(run)">{{ w.stop }}</v-btn>
      <input ref="chooser" class="unseen" type="file" multiple tabindex="-1" :aria-label="w.choose" @change="chosen" />
      <JobsBar v-if="list.jobs && (list.total || list.deletedCount || list.asked.search || list.asked.deleted)" />
      <ul v-if="list.jobs?.length" class="list" :class="{ selecting: list.selected.size }">
        <JobCard v-for="job in list.jobs" :key="job.id" :job="job" />
      </ul>
      <p v-else-if="list.jobs" class="none quiet">{{ list.asked.search ? w.notFound(list.asked.search) : w.none }}</p>
      <v-progress-linear v-else-if="!list.problem" :aria-label="words.notices.howFar" indeterminate color="primary" height="3" />
      <v-pagination
        v-if="list.pages > 1"
        :model-value="list.asked.page"
        :length="list.pages"
        :total-visible="7"
        density="comfortable"
        :aria-label="w.pages"
        @update:model-value="list.show({ page: $event })"
      />
      <div v-if="list.undoable.length" class="undo" role="status">
        <span>{{ w.didDelete(list.undoable.length) }}</span>
        <v-btn size="small" color="primary" @click="list.bringBack(list.undoable)">{{ w.undo }}</v-btn>
        <v-btn size="small" variant="text" @click="list.undoable = []">{{ words.common.close }}</v-btn>
      </div>
    </main>
    <ArchiveDialog />
    <OneOrEach />
  </div>
</template>

<style scoped>
.starts {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
}
.begin {
  flex: 1 1 420px;
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
.begin.other {
  flex: 0 1 auto;
  border-style: solid;
  border-width: 1px;
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
.undo {
  position: sticky;
  bottom: 16px;
  justify-self: center;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 8px 12px 8px 16px;
  border: 1px solid var(--edge);
  border-radius: 10px;
  background: var(--raised);
  box-shadow: 0 2px 12px rgb(0 0 0 / 18%);
}
.none {
  text-align: center;
  padding: 32px;
}
</style>
