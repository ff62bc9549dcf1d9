<script setup lang="ts">
import { mdiContentDuplicate, mdiRedo, mdiUndo } from '@mdi/js'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'

import { useRenaming } from '@/composables/renaming'
import { clock } from '@/composables/times'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import HelpButton from './HelpButton.vue'
import IconButton from './IconButton.vue'
import LanternMark from './LanternMark.vue'
import ShadeButton from './ShadeButton.vue'

const w = words.top
const jobs = useJob()

const made = computed(() => [jobs.head?.held.material, jobs.head?.held.machine].filter(Boolean))

const route = useRoute()
const router = useRouter()
/** The copy is opened at the same station. */
async function copy() {
  const made = await jobs.copy(words.jobs.copyName(jobs.job!.name).slice(0, 120))
  if (made) void router.push({ name: 'bench', params: { ...route.params, job: made } })
}

const { naming, name, field, rename, named } = useRenaming(
  () => jobs.job!.name,
  (next) => void jobs.rename(next),
)
</script>

<template>
  <header class="bar">
    <LanternMark />
    <input
      v-if="naming"
      ref="field"
      v-model="name"
      class="name"
      maxlength="120"
      :aria-label="w.name"
      @keydown.enter="named"
      @keydown.esc="naming = false"
      @blur="named"
    />
    <h1 v-else-if="jobs.job">
      <button class="title" :title="w.rename" @click="rename">{{ jobs.job.name }}</button>
    </h1>
    <span class="quiet made">{{ made.join(' · ') }}</span>
    <span class="spring" />
    <span v-if="jobs.job" class="quiet kept" role="status">
      {{ jobs.busy ? `${jobs.busy} ...` : w.kept(clock(jobs.job.changed)) }}
    </span>
    <IconButton
      :icon="mdiUndo"
      :name="w.back"
      :hint="jobs.job?.undo_what"
      keys="Ctrl z"
      :disabled="!jobs.job?.can_undo || !!jobs.busy"
      @press="jobs.move('undo')"
    />
    <IconButton
      :icon="mdiRedo"
      :name="w.forward"
      :hint="jobs.job?.redo_what"
      keys="Ctrl Shift z"
      :disabled="!jobs.job?.can_redo || !!jobs.busy"
      @press="jobs.move('redo')"
    />
    <IconButton v-if="jobs.job" :icon="mdiContentDuplicate" :name="words.jobs.copy" :disabled="!!jobs.busy" @press="copy" />
    <ShadeButton />
    <HelpButton />
    <v-progress-linear v-if="jobs.busy" :aria-label="words.notices.howFar" class="progress" indeterminate color="primary" height="2" />
  </header>
</template>

<style scoped>
.bar {
  position: relative;
  display: flex;
  align-items: center;
  gap: 12px;
  padding: 0 16px;
  background: var(--panel);
  border-bottom: 1px solid var(--rule);
  min-width: 0;
}
h1 {
  min-width: 0;
}
.title {
  max-width: 100%;
  padding: 2px 6px;
  border: 0;
  border-radius: 6px;
  background: none;
  font: inherit;
  cursor: text;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.title:hover {
  background: var(--raised);
}
.name {
  font-family: var(--heading);
  font-weight: 640;
  font-size: 19px;
  width: 360px;
  padding: 2px 6px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
.made {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  min-width: 0;
}
.kept {
  white-space: nowrap;
  margin-right: 8px;
}
.spring {
  flex: 1;
}
.progress {
  position: absolute;
  inset: auto 0 -1px 0;
}
</style>
