<script setup lang="ts">
import { mdiMagnify } from '@mdi/js'
import { computed } from 'vue'

import { useJobList, type Sort } from '@/stores/jobList'
import { words } from '@/words'

/** Over the list of jobs: searching, the order, and what can be done with those that are selected. */
const w = words.jobList
const list = useJobList()
const SORTS = Object.entries(w.sorts) as [Sort, string][]
const chosen = computed(() => [...list.selected])
const all = computed(() => !!list.jobs?.length && chosen.value.length === list.jobs.length)
</script>

<template>
  <div class="bar" role="search">
    <label class="find">
      <v-icon :icon="mdiMagnify" size="18" aria-hidden="true" />
      <input
        type="search"
        :value="list.asked.search"
        :placeholder="w.search"
        :aria-label="w.search"
        @input="list.search(($event.target as HTMLInputElement).value)"
      />
    </label>
    <select
      :value="list.asked.sort"
      :aria-label="w.order"
      @change="list.show({ sort: ($event.target as HTMLSelectElement).value as Sort })"
    >
      <option v-for="[id, name] in SORTS" :key="id" :value="id">{{ name }}</option>
    </select>
    <span class="quiet small" role="status">{{ list.asked.deleted ? w.deletedJobs(list.total) : w.total(list.total) }}</span>
    <span class="spring" />
    <template v-if="chosen.length">
      <b class="small">{{ w.selected(chosen.length) }}</b>
      <v-btn size="small" variant="outlined" @click="list.selectAll(!all)">{{ all ? w.selectNone : w.selectAll }}</v-btn>
      <v-btn v-if="list.asked.deleted" size="small" color="primary" @click="list.bringBack(chosen)">{{ w.bringBack }}</v-btn>
      <v-btn v-else size="small" variant="outlined" @click="list.remove(chosen)">{{ w.remove }}</v-btn>
    </template>
    <v-btn v-if="list.asked.deleted" size="small" variant="text" @click="list.show({ deleted: false })">{{ w.backToJobs }}</v-btn>
    <v-btn v-else-if="list.deletedCount" size="small" variant="text" @click="list.show({ deleted: true })">{{
      w.showDeleted(list.deletedCount)
    }}</v-btn>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
  min-height: 36px;
}
.find {
  display: flex;
  align-items: center;
  gap: 6px;
  padding: 0 10px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  color: var(--ink-2);
}
.find:focus-within {
  outline: 2px solid var(--pick);
  outline-offset: 2px;
}
.find input {
  width: 220px;
  height: 34px;
  border: 0;
  outline: 0;
  background: none;
  color: var(--ink);
}
select {
  height: 36px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  cursor: pointer;
}
.spring {
  flex: 1;
}
</style>
