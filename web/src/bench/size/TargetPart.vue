<script setup lang="ts">
import { computed } from 'vue'

import { useChosen } from '@/composables/chosen'
import { useKeepOutline } from '@/composables/keepOutline'
import { useTarget } from '@/composables/target'
import { mm, parseLength } from '@/composables/lengths'
import { useJob } from '@/stores/job'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import RowField from '../RowField.vue'

/** What the work goes onto or into: chosen from the list, drawn under it, with the clearance to its rim. */
const jobs = useJob()
const picks = usePicks()
const { settings, targets } = useChosen()
const { asTarget } = useKeepOutline()
const w = words.size

const { under } = useTarget()
const off = computed(() => settings.value.target_off ?? [0, 0])
const choose = (target: string) => jobs.set(w.choosing, () => ({ target: target || null, target_off: null }))
const moveBy = (axis: 0 | 1, value: number) =>
  jobs.set(w.moving, () => ({ target_off: off.value.map((now, k) => (k === axis ? value : now)) }))
const read = (text: string) => parseLength(text) ?? undefined
</script>

<template>
  <div class="part target">
    <h3>{{ w.target }}</h3>
    <select
      :aria-label="w.target"
      :value="settings.target ?? ''"
      :disabled="!!jobs.busy"
      @change="choose(($event.target as HTMLSelectElement).value)"
    >
      <option value="">{{ w.noTarget }}</option>
      <option v-for="one in targets" :key="one.id" :value="one.id">{{ one.name }}</option>
    </select>
    <template v-if="settings.target">
      <p v-if="under" :class="{ flag: under.clearance_mm < -0.01 }">
        <b>{{
          under.clearance_mm < -0.01 ? w.beyond(`${mm(-under.clearance_mm)} mm`) : w.room(`${mm(Math.max(under.clearance_mm, 0))} mm`)
        }}</b>
      </p>
      <RowField
        v-for="axis in [0, 1] as const"
        :key="axis"
        :label="axis ? w.down : w.right"
        :value="off[axis]"
        :show="(v: number) => `${mm(v)} mm`"
        :read="read"
        :wrong="words.slide.wrongLength"
        needed
        :disabled="!!jobs.busy"
        @take="(v: number) => moveBy(axis, v)"
      />
    </template>
    <p class="links">
      <button v-if="picks.pieces.length === 1" class="link" :disabled="!!jobs.busy" @click="asTarget(picks.pieces[0])">
        {{ w.makeTarget }}
      </button>
      <router-link
        class="small"
        :to="{ name: 'lists', params: { kind: 'targets' }, query: { job: jobs.job!.id, entry: settings.target || undefined } }"
        >{{ w.editTargets }}</router-link
      >
    </p>
  </div>
</template>

<style scoped>
.target {
  display: grid;
  gap: 8px;
}
select {
  width: 100%;
  height: 36px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
}
.flag {
  color: var(--flag);
}
.links {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
.links a,
.link {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  font-size: 12.5px;
  text-decoration: underline;
  cursor: pointer;
}
</style>
