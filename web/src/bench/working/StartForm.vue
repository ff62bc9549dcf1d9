<script setup lang="ts">
import { nextTick, onMounted, ref } from 'vue'

import { useJob } from '@/stores/job'
import { useStarting } from '@/stores/starting'
import { words } from '@/words'

import LengthField from '../LengthField.vue'

/** Where a line of a piece begins: clicked on the work, or typed. */
const starting = useStarting()
const jobs = useJob()
const w = words.working
const form = ref<HTMLElement | null>(null)
onMounted(async () => {
  await nextTick()
  form.value?.querySelector('input')?.focus()
  form.value?.scrollIntoView({ block: 'nearest' })
})
</script>

<template>
  <div ref="form" class="form" @keydown.esc.stop="starting.leave()">
    <p class="small quiet">{{ w.setStartHint }}</p>
    <div class="fields">
      <label v-if="starting.runs.length > 1" class="small">
        {{ w.ofLine }}
        <select v-model="starting.nth">
          <option v-for="(_, n) in starting.runs" :key="n" :value="n">{{ w.nthLine(n + 1, starting.runs.length) }}</option>
        </select>
      </label>
      <LengthField :label="w.further" :value="0" :disabled="!!jobs.busy" @take="starting.set(starting.along($event))" />
    </div>
  </div>
</template>

<style scoped>
.form {
  flex-basis: 100%;
  display: grid;
  gap: 8px;
  padding: 4px 8px 10px 36px;
}
p {
  margin: 0;
}
.fields {
  display: flex;
  align-items: center;
  gap: 10px;
}
label {
  white-space: nowrap;
}
select {
  height: 30px;
  padding: 0 6px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--raised);
}
</style>
