<script setup lang="ts">
import { computed } from 'vue'

import { useKeys } from '@/composables/keys'
import { useCheck } from '@/stores/check'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import PanelFrame from '../PanelFrame.vue'
import AsideList from './AsideList.vue'
import CheckAgainst from './CheckAgainst.vue'
import CheckVerdict from './CheckVerdict.vue'
import FindingKind from './FindingKind.vue'

const w = words.check
const jobs = useJob()
const check = useCheck()
const empty = computed(() => !jobs.head?.statistics.pieces && !jobs.open.length)
const known = computed(() => !jobs.checking && !jobs.unchecked)
const grave = computed(() => jobs.open.some((f) => f.level !== 'note'))

useKeys({
  n: () => check.step(1),
  p: () => check.step(-1),
  m: () => {
    if (check.picked?.mendable) void check.mend(check.picked)
  },
  x: () => {
    if (check.picked) void check.setAside(check.picked)
  },
})
</script>

<template>
  <PanelFrame :title="words.stations.check">
    <template #head>
      <div v-if="jobs.checking" class="quiet">
        {{ w.looking }}
        <v-progress-linear
          :model-value="jobs.checking.progress * 100"
          :indeterminate="!jobs.checking.progress"
          :aria-label="words.notices.howFar"
          color="primary"
          height="4"
          rounded
        />
      </div>
      <div v-else-if="jobs.unchecked" role="alert">
        <p class="failed">{{ w.unchecked }}</p>
        <p class="quiet">{{ jobs.unchecked }}</p>
        <v-btn size="small" variant="outlined" @click="jobs.recheck()">{{ w.again }}</v-btn>
      </div>
      <p v-else-if="empty" class="quiet">{{ w.empty }}</p>
      <CheckVerdict v-else />
    </template>

    <div v-if="!empty" class="against">
      <CheckAgainst />
      <label v-if="check.layers.length > 1" class="choice filter">
        {{ w.onLayer }}
        <select v-model="check.layer" :aria-label="w.onLayer">
          <option value="">{{ w.allLayers }}</option>
          <option v-for="layer in check.layers" :key="layer.id" :value="layer.id">{{ layer.name }}</option>
        </select>
      </label>
    </div>
    <ul class="list">
      <FindingKind v-for="kind in check.kinds" :key="kind.id" :kind="kind" />
    </ul>
    <AsideList />

    <template v-if="!empty && known" #foot>
      <template v-if="check.safe.length">
        <v-btn color="primary" size="large" block :disabled="!!jobs.busy" @click="check.mendAll">
          {{ w.mendAll(check.safe.length) }}
        </v-btn>
        <p class="small quiet foot">{{ w.safe(jobs.head!.statistics.pieces) }}</p>
      </template>
      <v-btn
        v-else
        :color="grave ? undefined : 'primary'"
        :variant="grave ? 'outlined' : 'flat'"
        size="large"
        block
        :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'handover' } }"
      >
        {{ grave ? w.onAsItIs : w.on }}
      </v-btn>
    </template>
  </PanelFrame>
</template>

<style scoped>
.against {
  padding: 0 18px;
  border-bottom: 1px solid var(--rule);
}
.failed {
  color: var(--flag);
  font-weight: 600;
}
.filter {
  padding-bottom: 10px;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
}
.foot {
  text-align: center;
}
</style>
