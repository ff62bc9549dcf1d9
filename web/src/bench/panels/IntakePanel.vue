<script setup lang="ts">
import { mdiTrayArrowDown } from '@mdi/js'
import { computed, ref } from 'vue'

import { mm } from '@/composables/lengths'
import { useUntraced } from '@/composables/untraced'
import { useDrawing } from '@/stores/drawing'
import { useIntake } from '@/stores/intake'
import { useJob } from '@/stores/job'
import { words } from '@/words'

import LengthField from '../LengthField.vue'
import PanelFrame from '../PanelFrame.vue'
import LayerList from './LayerList.vue'
import MadeOf from './MadeOf.vue'
import PageChoice from './PageChoice.vue'
import SourceCard from './SourceCard.vue'

const w = words.intake
const jobs = useJob()
const drawing = useDrawing()
const intake = useIntake()
const chooser = ref<HTMLInputElement | null>(null)
const figures = computed(() => jobs.head!.statistics)
const sources = computed(() => jobs.head!.steps.filter((s) => s.operation === 'bring-in'))
const empty = computed(() => !figures.value.pieces && !jobs.head!.steps.length)
/** A picture that has not been traced yet is sized where it is listed. */
const bare = computed(() => !figures.value.pieces && !!drawing.drawing?.pictures.length)
const { untraced } = useUntraced()
const doubted = computed(() => jobs.doubted.length)

function chosen(event: Event) {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  if (files.length) void intake.take(files)
}
const resize = (side: 'width_mm' | 'height_mm', value: number) => void jobs.addStep(words.busy.sizing, 'resize', { [side]: value })
</script>

<template>
  <PanelFrame :title="words.stations.intake">
    <template #head>
      <p v-if="empty" class="quiet">{{ w.empty }}</p>
      <p v-else-if="doubted" class="flag">
        {{ w.doubted(doubted) }}
      </p>
      <p v-else-if="sources.length > 1">
        <b>{{ mm(figures.width_mm) }} × {{ mm(figures.height_mm) }} mm</b> {{ w.together }}
        <span class="quiet">{{ w.files(sources.length) }}</span>
      </p>
      <p v-else class="quiet">{{ w.check }}</p>
    </template>

    <template v-if="!empty">
      <ul class="sources">
        <SourceCard v-for="step in sources" :key="step.key" :step="step" />
      </ul>
      <div v-if="!bare && figures.pieces" class="part">
        <h3>{{ w.size }}</h3>
        <div class="pair">
          <LengthField :label="w.width" :value="figures.width_mm" :disabled="!!jobs.busy" @take="resize('width_mm', $event)" />
          <LengthField :label="w.height" :value="figures.height_mm" :disabled="!!jobs.busy" @take="resize('height_mm', $event)" />
        </div>
        <p class="small quiet">{{ w.typeOne }}</p>
      </div>
      <PageChoice />
      <MadeOf />
      <LayerList />
    </template>

    <template #foot>
      <v-btn
        v-if="untraced.length"
        :color="bare ? 'primary' : undefined"
        :variant="bare ? 'flat' : 'outlined'"
        size="large"
        block
        :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'trace' }, query: { picture: untraced[0].id } }"
      >
        {{ untraced.length > 1 ? w.traceThem : w.trace }}
      </v-btn>
      <v-btn
        :color="empty ? 'primary' : undefined"
        :variant="empty ? 'flat' : 'outlined'"
        size="large"
        block
        :prepend-icon="mdiTrayArrowDown"
        :disabled="!!jobs.busy || !!intake.going"
        @click="chooser?.click()"
      >
        {{ empty ? w.choose : w.more }}
      </v-btn>
      <input ref="chooser" class="unseen" type="file" multiple tabindex="-1" :aria-label="w.choose" @change="chosen" />
    </template>
  </PanelFrame>
</template>

<style scoped>
.sources {
  list-style: none;
  margin: 0;
  padding: 0;
}
.flag {
  color: var(--flag);
  font-weight: 600;
}
</style>
