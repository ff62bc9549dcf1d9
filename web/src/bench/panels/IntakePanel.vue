<script setup lang="ts">
import { mdiTrayArrowDown } from '@mdi/js'
import { computed, ref } from 'vue'

import { mm } from '@/composables/lengths'
import { useDrawing } from '@/stores/drawing'
import { useJob } from '@/stores/job'

import LengthField from '../LengthField.vue'
import PanelFrame from '../PanelFrame.vue'
import LayerList from './LayerList.vue'
import MadeOf from './MadeOf.vue'
import ScaleChoices from './ScaleChoices.vue'

const jobs = useJob()
const drawing = useDrawing()
const chooser = ref<HTMLInputElement | null>(null)
const figures = computed(() => jobs.head!.figures)
const empty = computed(() => !figures.value.pieces && !jobs.head!.steps.length)
const pictures = computed(() => drawing.drawing?.pictures ?? [])
/** A picture that has not been traced yet is sized by its own edge. */
const bare = computed(() => !figures.value.pieces && pictures.value.length > 0)
const size = computed(() =>
  bare.value ? (drawing.drawing!.page ?? drawing.drawing!.frame) : [figures.value.width_mm, figures.value.height_mm],
)
/** Where a picture's size comes from. */
const from = computed(() => {
  const perInch = `${Number(pictures.value[0]?.px_per_inch.toPrecision(4))} pixels an inch`
  if (jobs.head!.steps.some((s) => s.operation === 'resize' && s.enabled)) return `${perInch}, as it was sized here.`
  const silent = jobs.findings.some((f) => f.id === 'no-unit')
  return silent ? `${perInch} were taken: the file states none.` : `${perInch}, as the file states.`
})
const READ = ['live-text', 'not-understood', 'external-reference', 'damaged', 'taken-plainly', 'hidden-thing']
const said = computed(() => jobs.findings.filter((f) => READ.includes(f.id)))

function chosen(event: Event) {
  const input = event.target as HTMLInputElement
  if (input.files?.[0]) void jobs.bringIn(input.files[0])
  input.value = ''
}
const resize = (side: 'width_mm' | 'height_mm', value: number) => void jobs.addStep('Sizing', 'resize', { [side]: value })
</script>

<template>
  <PanelFrame title="Intake">
    <template #head>
      <p v-if="empty" class="quiet">Bring in a design: drop it on the sheet, or choose a file.</p>
      <p v-else>
        <b>{{ mm(size[0]) }} × {{ mm(size[1]) }} mm</b>,
        <span class="quiet">{{ jobs.head!.size_in_words }}</span>
      </p>
    </template>

    <template v-if="!empty">
      <ScaleChoices />
      <div class="part">
        <h3>{{ bare ? 'Size of the picture' : 'Size of all outlines' }}</h3>
        <div class="pair">
          <LengthField label="Width" :value="size[0]" :disabled="!!jobs.busy" @take="resize('width_mm', $event)" />
          <LengthField
            label="Height"
            :value="size[1]"
            :disabled="!!jobs.busy"
            @take="resize('height_mm', $event)"
          />
        </div>
        <p v-if="bare" class="small">{{ from }}</p>
        <p class="small quiet">Type one, with its unit if it is not mm, and press Enter; the other follows.</p>
      </div>
      <MadeOf />
      <LayerList />
      <div v-if="said.length" class="part">
        <h3>Said of the file</h3>
        <ul class="said">
          <li v-for="f in said" :key="f.key" :class="f.level">
            <b>{{ f.title }}.</b> {{ f.message }} <span class="quiet">{{ f.effect }}</span>
          </li>
        </ul>
      </div>
    </template>

    <template #foot>
      <v-btn v-if="bare" color="primary" size="large" block :to="{ name: 'bench', params: { job: jobs.job!.id, station: 'trace' } }">
        Trace this picture
      </v-btn>
      <v-btn
        :color="empty ? 'primary' : undefined"
        :variant="empty ? 'flat' : 'outlined'"
        size="large"
        block
        :prepend-icon="mdiTrayArrowDown"
        :disabled="!!jobs.busy"
        @click="chooser?.click()"
      >
        {{ empty ? 'Choose a file' : 'Bring in another file' }}
      </v-btn>
      <input ref="chooser" class="unseen" type="file" tabindex="-1" aria-label="Choose a file" @change="chosen" />
    </template>
  </PanelFrame>
</template>

<style scoped>
.part {
  padding: 14px 18px;
  display: grid;
  gap: 8px;
  border-bottom: 1px solid var(--rule);
}
h3 {
  margin: 0;
  font-size: 14px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px;
  padding-top: 4px;
}
.said {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
}
.said li {
  overflow-wrap: anywhere;
}
.stops b,
.spoils b {
  color: var(--flag);
}
</style>
