<script setup lang="ts">
import { nextTick, onMounted, ref } from 'vue'

import { useJob } from '@/stores/job'
import { useOwnPlaces } from '@/stores/ownPlaces'
import { words } from '@/words'

import LengthField from '../LengthField.vue'

/** Where a line of a piece begins, or is held by tabs: clicked on the work, or typed. */
const own = useOwnPlaces()
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
  <div ref="form" class="form" @keydown.esc.stop="own.leave()">
    <p class="small quiet">{{ own.kind === 'tabs' ? w.setTabsHint : w.setStartHint }}</p>
    <div class="fields">
      <label v-if="own.lines.length > 1" class="small">
        {{ w.ofLine }}
        <select v-model="own.nth">
          <option v-for="(_, n) in own.lines" :key="n" :value="n">{{ w.nthLine(n + 1, own.lines.length) }}</option>
        </select>
      </label>
      <LengthField :label="w.further" :value="0" always zero :disabled="!!jobs.busy" @take="own.set(own.along($event))" />
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
