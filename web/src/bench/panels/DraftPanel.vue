<script setup lang="ts">
import { computed, nextTick, onMounted, onUnmounted, ref } from 'vue'

import { holds, partsOf, restOf } from '@/composables/sentence'
import { useBench } from '@/stores/bench'
import { BY_FEATURE, madeBy, NODES, ON, SIZING, useDraft } from '@/stores/draft'
import { useJob } from '@/stores/job'
import { usePicks } from '@/stores/picks'
import { words } from '@/words'

import FoldPart from '../FoldPart.vue'
import PanelFrame from '../PanelFrame.vue'
import ParameterField from '../ParameterField.vue'
import DraftWords from '../lettering/DraftWords.vue'
import OwnSheet from '../sheets/OwnSheet.vue'
import SheetList from '../sheets/SheetList.vue'
import DraftEffect from './DraftEffect.vue'
import DraftNodes from './DraftNodes.vue'
import FeatureRows from './FeatureRows.vue'
import WhatStays from './WhatStays.vue'

/** A step that is set up, new or reopened: a sentence with its values in it, and what it would do in figures. */
const draft = useDraft()
const bench = useBench()
const jobs = useJob()
const picks = usePicks()
const w = words.build

const operation = computed(() => draft.operation!)
const parts = computed(() => partsOf(operation.value, draft.values))
const beside = computed(() => restOf(operation.value, draft.values, 'sentence'))
const folded = computed(() => restOf(operation.value, draft.values, 'more'))

/** Places that are set on the work, and spots that are picked there. */
const onWork = computed(() => draft.fields.filter((one) => one.kind === 'places'))

/** Places that a press on the work sets. */
const pressed = computed(() => draft.fields.filter((one) => one.by_press && draft.values[one.name]))
const otherRoles = computed(() => operation.value.roles.filter((one) => one.id !== ON && holds(one.when, operation.value, draft.values)))
const asking = computed(() => operation.value.roles.find((one) => one.id === draft.role && one.id !== ON))
const forWhat = computed(() => {
  const chosen = draft.selection[ON]
  const made = jobs.head?.steps.find((step) => step.key === madeBy(chosen?.query))
  if (made) return w.forMade(made.title)
  if (chosen?.query) return w.forQuery(chosen.query)
  return chosen?.ids?.length ? w.forPicked(chosen.ids.length) : w.forAll
})
/** What is picked from now on is for another role. */
function ask(role: string) {
  draft.role = role
  picks.clear()
}

function letGo() {
  draft.clear()
  bench.reopened = ''
}
async function keep() {
  if (draft.role !== ON) return void (draft.role = ON)
  // A value that cannot be is put right first.
  await nextTick()
  if (first.value?.querySelector('[aria-invalid=true]')) return
  if (await draft.keep()) bench.reopened = ''
}
/** Enter keeps and Esc lets go, wherever the hands are but in a field that has its own use for them. */
function key(event: KeyboardEvent) {
  const at = event.target as HTMLElement
  if (event.key === 'Escape') {
    event.preventDefault()
    event.stopPropagation()
    letGo()
  } else if (
    event.key === 'Enter' &&
    !at.closest('button, a, [role=button], [data-own-enter]') &&
    !(event.shiftKey && at.closest('textarea'))
  ) {
    event.preventDefault()
    // A value that is typed and not taken yet is taken first.
    at.blur?.()
    void keep()
  }
}
const first = ref<HTMLElement | null>(null)
onMounted(() => {
  window.addEventListener('keydown', key, true)
  // A field takes keys for itself: one that nobody asked for does not.
  const field = first.value?.querySelector<HTMLElement>('textarea, input, select')
  if (draft.unasked) first.value?.focus()
  else field?.focus()
})
onUnmounted(() => window.removeEventListener('keydown', key, true))
</script>

<template>
  <PanelFrame :title="operation.title">
    <template #head>
      <p v-if="operation.roles.some((one) => one.id === ON)" class="quiet">
        {{ forWhat }}
        <button v-if="draft.key && picks.pieces.length" class="link" @click="draft.choose(picks.pieces)">{{ w.pickedNow }}</button>
      </p>
    </template>
    <div ref="first" class="part form" tabindex="-1">
      <p class="sentence">
        <template v-for="(part, k) in parts" :key="k">
          <ParameterField
            v-if="'parameter' in part"
            :parameter="part.parameter"
            :values="draft.values"
            @set="draft.set(part.parameter, $event)"
          />
          <template v-else>{{ part.words }}</template>
        </template>
      </p>
      <DraftWords v-if="operation.id === 'words'" />
      <DraftNodes v-if="operation.id === NODES" />
      <button
        v-for="one in pressed"
        :key="one.name"
        class="plain press"
        :aria-pressed="draft.setting === one.name"
        @click="draft.setting = draft.setting === one.name ? '' : one.name"
      >
        {{ w.press }}
      </button>
      <FeatureRows v-if="operation.id === BY_FEATURE" />
      <WhatStays v-if="SIZING.includes(operation.id)" />
      <label v-for="one in beside" :key="one.name" class="row">
        <span>{{ one.label }}</span>
        <ParameterField :parameter="one" :values="draft.values" @set="draft.set(one, $event)" />
      </label>
      <div v-for="one in otherRoles" :key="one.id" class="row">
        <template v-if="asking?.id === one.id">
          <span>{{ w.pickOnWork }}</span>
          <button class="plain" @click="draft.role = ON">{{ w.done }}</button>
        </template>
        <template v-else>
          <span>{{ draft.selection[one.id]?.ids?.length ? w.chosen(one.label, draft.selection[one.id].ids!.length) : one.label }}</span>
          <button class="plain" :aria-label="w.choose(one.label)" @click="ask(one.id)">{{ w.chooseShort }}</button>
        </template>
      </div>
      <p v-if="draft.spotted && draft.shown?.spots.length" class="quiet small">
        {{ w.spots(draft.spotted.label, draft.shown.spots.length) }}
        <button v-if="draft.pickedSpots.size" class="link" @click="draft.set(draft.spotted!, undefined)">
          {{ w.noSpots(draft.pickedSpots.size) }}
        </button>
      </p>
      <div v-for="one in onWork" :key="one.name" class="row">
        <span :title="one.help">{{ w.places(one.label, draft.placesOf(one.name).length) }}</span>
        <span>
          <button
            v-if="draft.placesOf(one.name).length"
            class="link"
            @click="draft.setPlaces(one.name, draft.placesOf(one.name).slice(0, -1))"
          >
            {{ w.lastAway }}
          </button>
          <button
            class="plain"
            :aria-pressed="draft.setting === one.name"
            @click="draft.setting = draft.setting === one.name ? '' : one.name"
          >
            {{ draft.setting === one.name ? w.done : w.setPlaces }}
          </button>
        </span>
      </div>
      <FoldPart v-if="folded.length" :name="w.more" :set="false">
        <label v-for="one in folded" :key="one.name" class="row">
          <span :title="one.help">{{ one.label }}</span>
          <ParameterField :parameter="one" :values="draft.values" @set="draft.set(one, $event)" />
        </label>
      </FoldPart>
    </div>
    <template v-if="operation.id === 'sheets'">
      <SheetList />
      <OwnSheet />
    </template>
    <DraftEffect v-else />
    <template #foot>
      <v-btn color="primary" size="large" block :disabled="!!draft.problem || !!draft.missing || !!jobs.busy" @click="keep"
        >{{ w.keep }} <span class="key">{{ w.keepHint }}</span></v-btn
      >
      <v-btn variant="text" block @click="letGo"
        >{{ w.letGo }} <span class="key">{{ w.letGoHint }}</span></v-btn
      >
    </template>
  </PanelFrame>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
}
.form:focus {
  outline: none;
}
.sentence {
  font-size: 17px;
  line-height: 2.1;
}
.row {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  min-height: 32px;
}
.key {
  margin-left: 8px;
  font-weight: 400;
  opacity: 0.75;
}
.plain {
  min-height: 28px;
  padding: 0 10px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
  font-weight: 600;
  cursor: pointer;
}
.press {
  justify-self: start;
}
.link {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  text-decoration: underline;
  cursor: pointer;
}
</style>
