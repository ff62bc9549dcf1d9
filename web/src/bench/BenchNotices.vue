<script setup lang="ts">
import { computed } from 'vue'

import { useIntake } from '@/stores/intake'
import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { words } from '@/words'

import RefusedFiles from './RefusedFiles.vue'

const w = words.notices
const emit = defineEmits<{ again: [] }>()
/** What went wrong, over the work, with what to do about it. */
const jobs = useJob()
const intake = useIntake()
const library = useLibrary()
/** What the job was held against and that is another on the lists now. */
const differing = computed(() => jobs.head?.held.differing ?? [])
async function takeOver() {
  await library.load(true).catch(() => {})
  await jobs.set(words.lists.takingOver, () => ({ lists: library.library.lists }))
}
async function theirs() {
  jobs.overtaken = null
  await jobs.refresh()
}
</script>

<template>
  <div class="notices">
    <div v-if="jobs.run" class="notice work" role="status">
      <div class="row spread">
        <span
          ><b>{{ jobs.busy }}.</b> {{ jobs.run.stage || w.waiting }}</span
        >
        <span class="acts">
          <v-btn v-if="jobs.run.so_far" size="small" color="primary" @click="jobs.settle()">{{ w.settle }}</v-btn>
          <v-btn size="small" variant="outlined" @click="jobs.halt()">{{ w.stop }}</v-btn>
        </span>
      </div>
      <v-progress-linear
        :model-value="jobs.run.progress * 100"
        :indeterminate="jobs.run.state === 'waiting'"
        color="primary"
        height="4"
        rounded
        :aria-label="w.howFar"
      />
    </div>
    <div v-else-if="intake.going || intake.unpacking" class="notice work" role="status">
      <span v-if="intake.going"
        ><b>{{ w.of(intake.going.done + 1, intake.going.all) }}</b> {{ jobs.busy }}</span
      >
      <span v-else>{{ w.unpacking(intake.unpacking) }}</span>
      <v-progress-linear
        :model-value="intake.going ? (intake.going.done / intake.going.all) * 100 : 0"
        :indeterminate="!intake.going"
        color="primary"
        height="4"
        rounded
        :aria-label="w.howFar"
      />
    </div>
    <RefusedFiles />
    <div v-if="jobs.unsent.length" class="notice" role="alert">
      <p>
        <b>{{ words.offline.title }}</b> {{ words.offline.kept(jobs.unsent[0].what, jobs.unsent.length - 1) }}
      </p>
      <div class="row">
        <v-btn size="small" color="primary" @click="jobs.sendAgain()">{{ words.offline.again }}</v-btn>
        <v-btn size="small" variant="text" @click="jobs.letGo(jobs.unsent[0])">{{ words.offline.drop }}</v-btn>
      </div>
    </div>
    <div v-if="differing.length" class="notice lists" role="status">
      <p>{{ words.lists.differing(differing.join(', ')) }}</p>
      <div class="row">
        <v-btn size="small" color="primary" :disabled="!!jobs.busy" @click="takeOver">{{ words.lists.takeOver }}</v-btn>
      </div>
    </div>
    <div v-if="jobs.overtaken" class="notice" role="alert">
      <p>
        <b>{{ w.changed }}</b> {{ w.notMade }}
      </p>
      <div class="row">
        <v-btn size="small" color="primary" @click="jobs.overtaken?.()">{{ w.mine }}</v-btn>
        <v-btn size="small" variant="text" @click="theirs">{{ w.theirs }}</v-btn>
      </div>
    </div>
    <div v-if="jobs.problem" class="notice" role="alert">
      <p>{{ jobs.problem }}</p>
      <div class="row">
        <template v-if="!jobs.job">
          <v-btn size="small" color="primary" @click="emit('again')">{{ words.jobList.again }}</v-btn>
          <v-btn size="small" variant="outlined" :to="{ name: 'jobs' }">{{ words.jobList.toList }}</v-btn>
        </template>
        <v-btn v-else size="small" variant="text" @click="jobs.problem = ''">{{ words.common.close }}</v-btn>
      </div>
    </div>
  </div>
</template>

<style scoped>
.notices {
  position: absolute;
  left: 16px;
  right: 16px;
  bottom: 16px;
  display: grid;
  gap: 8px;
  justify-items: center;
  pointer-events: none;
}
.notice {
  pointer-events: auto;
  display: grid;
  gap: 8px;
  max-width: 560px;
  padding: 12px 16px;
  border: 1px solid var(--flag);
  border-radius: 10px;
  background: var(--flag-ground);
  color: var(--ink);
}
.lists {
  border-color: var(--edge);
  background: var(--raised);
}
.work {
  width: 380px;
  border-color: var(--rule);
  background: var(--raised);
}
.acts {
  display: flex;
  gap: 8px;
}
.spread {
  justify-content: space-between;
  align-items: center;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
