<script setup lang="ts">
import { computed, onMounted, onUnmounted, watch } from 'vue'

import { useDraft } from '@/stores/draft'
import { useJob } from '@/stores/job'
import { useSheets } from '@/stores/sheets'
import { words } from '@/words'

import PanelFrame from '../PanelFrame.vue'
import ItemFields from '../sheets/ItemFields.vue'
import OwnSheet from '../sheets/OwnSheet.vue'
import SheetFiles from '../sheets/SheetFiles.vue'
import SheetList from '../sheets/SheetList.vue'
import DraftPanel from './DraftPanel.vue'

/** What lies where on each sheet. Where nothing is laid yet, sheets for the whole job are proposed. */
const draft = useDraft()
const jobs = useJob()
const sheets = useSheets()
const w = words.sheets

const empty = computed(() => !jobs.head?.statistics.pieces)
const step = computed(() => jobs.head?.steps.findLast((one) => one.operation === 'sheets'))

let proposed = false
function enter() {
  if (!jobs.head || empty.value) return
  if (step.value) {
    // Sheets that were laid meanwhile take the place of a proposal that nobody asked for.
    if (draft.unasked) draft.clear()
    void sheets.load()
  } else if (!proposed && !draft.operation) {
    proposed = true
    draft.begin('sheets')
    draft.unasked = true
  }
}
watch(() => jobs.head?.id, enter)
onMounted(() => {
  // What was being set up elsewhere stays there.
  draft.clear()
  enter()
})
onUnmounted(() => {
  if (!draft.key) draft.clear()
})
</script>

<template>
  <DraftPanel v-if="draft.operation" />
  <PanelFrame v-else :title="words.stations.sheet">
    <template #head>
      <p v-if="empty" class="quiet">{{ w.empty }}</p>
      <p v-else-if="!sheets.sheet?.carrier" class="quiet small">
        {{ w.noMachine }}
        <router-link :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'intake' } }">{{ w.chooseMachine }}</router-link>
      </p>
    </template>
    <template v-if="step && sheets.sheet">
      <SheetList />
      <ItemFields />
      <OwnSheet />
      <SheetFiles />
    </template>
    <template v-if="!empty" #foot>
      <v-btn v-if="step" variant="text" block :disabled="!!jobs.busy" @click="draft.reopen(step)">{{ w.anew }}</v-btn>
      <v-btn v-else color="primary" size="large" block @click="draft.begin('sheets')">{{ w.list }}</v-btn>
    </template>
  </PanelFrame>
</template>
