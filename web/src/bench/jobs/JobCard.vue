<script setup lang="ts">
import { mdiDotsVertical } from '@mdi/js'
import { computed } from 'vue'

import type { JobListed } from '@/api/types'
import SketchPicture from '@/canvas/SketchPicture.vue'
import { mm } from '@/composables/lengths'
import { useRenaming } from '@/composables/renaming'
import { when } from '@/composables/times'
import { useJobList } from '@/stores/jobList'
import { words } from '@/words'

/** A job in the list: what it looks like, how large it is, what waits in it; and what can be done with it. */
const props = defineProps<{ job: JobListed }>()
const w = words.jobList
const list = useJobList()
const picked = computed(() => list.selected.has(props.job.id))
const address = computed(() => ({ name: 'bench', params: { job: props.job.id, station: props.job.station } }))
const { naming, name, field, rename, named } = useRenaming(
  () => props.job.name,
  (next) => void list.rename(props.job.id, next),
)
</script>

<template>
  <li class="job" :class="{ picked }">
    <component
      :is="job.deleted ? 'div' : 'router-link'"
      :to="job.deleted ? undefined : address"
      class="picture"
      tabindex="-1"
      aria-hidden="true"
    >
      <SketchPicture :document="job.document" :job="job.id" />
    </component>
    <label class="pick"
      ><input
        type="checkbox"
        :checked="picked"
        :aria-label="w.select(job.name)"
        @change="list.select(job.id, ($event.target as HTMLInputElement).checked)"
    /></label>
    <div class="about">
      <div class="head">
        <input
          v-if="naming"
          ref="field"
          v-model="name"
          class="name"
          maxlength="120"
          :aria-label="words.top.name"
          @keydown.enter="named"
          @keydown.esc.stop="naming = false"
          @blur="named"
        />
        <h2 v-else>
          <span v-if="job.deleted">{{ job.name }}</span>
          <router-link v-else :to="address">{{ job.name }}</router-link>
        </h2>
        <v-btn v-if="job.deleted" size="small" variant="outlined" @click="list.bringBack([job.id])">{{ w.bringBack }}</v-btn>
        <v-menu v-else location="bottom end">
          <template #activator="{ props: menu }">
            <button v-bind="menu" class="more" :aria-label="w.more(job.name)"><v-icon :icon="mdiDotsVertical" size="18" /></button>
          </template>
          <ul class="menu">
            <li>
              <button @click="rename">{{ w.rename }}</button>
            </li>
            <li>
              <button @click="list.copy(job.id, words.jobs.copyName(job.name).slice(0, 120))">{{ w.copy }}</button>
            </li>
            <li>
              <button @click="list.remove([job.id])">{{ w.remove }}</button>
            </li>
          </ul>
        </v-menu>
      </div>
      <p class="quiet small">
        <template v-if="job.pieces">{{ mm(job.width_mm) }} × {{ mm(job.height_mm) }} mm · {{ words.source.pieces(job.pieces) }}</template>
        <template v-else-if="job.width_mm">{{ w.picture }} {{ mm(job.width_mm) }} × {{ mm(job.height_mm) }} mm</template>
        <template v-else>{{ w.empty }}</template>
      </p>
      <p class="small foot">
        <span class="quiet">{{ job.deleted ? w.deletedAt(when(job.deleted)) : when(job.changed) }}</span>
        <span v-if="job.doubted" class="waiting">{{ w.doubted }}</span>
        <span v-else-if="job.waiting" class="waiting">{{ w.toMend(job.waiting) }}</span>
        <span v-else-if="job.waiting === null" class="quiet">{{ w.unchecked }}</span>
        <span v-else-if="job.pieces" class="clean">{{ w.clean }}</span>
      </p>
    </div>
  </li>
</template>

<style scoped>
.job {
  position: relative;
  display: grid;
  grid-template-rows: 176px auto;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--panel);
  overflow: hidden;
}
.job:hover {
  border-color: var(--ink);
}
.picked {
  border-color: var(--pick);
  box-shadow: inset 0 0 0 1px var(--pick);
}
.picture {
  display: block;
  background: #fffdf7;
  padding: 14px;
  min-height: 0;
  border-bottom: 1px solid var(--rule);
}
.pick {
  position: absolute;
  top: 6px;
  left: 6px;
  display: grid;
  place-items: center;
  width: 30px;
  height: 30px;
  cursor: pointer;
}
.pick input {
  width: 18px;
  height: 18px;
  /* They lie on paper, which is light in both themes. */
  color-scheme: light;
  accent-color: #1b2a4e;
}
/* Boxes are in the way until somebody points there, or has begun to select. */
.list:not(.selecting) .job:not(:hover, :focus-within) .pick {
  opacity: 0;
}
.about {
  padding: 12px 16px 14px;
  display: grid;
  gap: 4px;
  align-content: start;
}
.head {
  display: flex;
  align-items: start;
  gap: 4px;
}
h2,
.name {
  flex: 1;
  min-width: 0;
  font-size: 17px;
}
h2 {
  overflow-wrap: anywhere;
}
h2 a {
  color: inherit;
  text-decoration: none;
}
.name {
  height: 30px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
.more {
  flex: none;
  width: 28px;
  height: 28px;
  margin-right: -8px;
  padding: 0;
  border: 0;
  border-radius: 6px;
  background: none;
  color: var(--ink-2);
  cursor: pointer;
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
</style>
