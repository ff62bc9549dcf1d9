<script setup lang="ts">
import { ref, shallowRef } from 'vue'

import { client, want } from '@/api/client'
import type { Looked, Staged } from '@/api/types'
import SketchLines from '@/canvas/SketchLines.vue'
import { count, mm } from '@/composables/lengths'
import { useSeen } from '@/composables/seen'
import { sentenceOf } from '@/stores/intake'
import { words } from '@/words'

/** A file out of an archive, as it would come in; looked at when it comes into view. */
const props = defineProps<{ file: Staged; folder: string }>()
const chosen = defineModel<boolean>({ required: true })
const looked = shallowRef<Looked | null>(null)
const trouble = ref('')
const root = useSeen(async () => {
  try {
    looked.value = await want(client.GET('/api/staged/{staged}/look', { params: { path: { staged: props.file.id } } }))
  } catch (error) {
    trouble.value = sentenceOf(error)
  }
})
</script>

<template>
  <label ref="root" class="card" :class="{ chosen }">
    <span class="picture">
      <img v-if="looked?.is_picture" :src="`/api/staged/${file.id}/picture`" alt="" />
      <SketchLines v-else-if="looked?.sketch.box" :sketch="looked.sketch" />
      <span v-else-if="looked" class="none small">{{ words.archive.noLines }}</span>
      <v-progress-circular v-else-if="!trouble" :aria-label="words.notices.howFar" indeterminate size="22" width="2" color="primary" />
    </span>
    <span class="about">
      <span class="name">
        <input v-model="chosen" type="checkbox" :disabled="!!trouble" /> <b>{{ file.name }}</b>
      </span>
      <span v-if="trouble" class="small trouble">{{ trouble }}</span>
      <span v-else-if="looked" class="small">
        {{ mm(looked.width_mm) }} × {{ mm(looked.height_mm) }} mm<template v-if="looked.pieces"
          >, {{ count(looked.pieces, 'piece') }}, {{ count(looked.nodes, 'node') }}</template
        >
      </span>
      <span v-if="folder" class="small quiet">{{ folder }}</span>
    </span>
  </label>
</template>

<style scoped>
.card {
  display: grid;
  grid-template-rows: 132px auto;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--raised);
  overflow: hidden;
  cursor: pointer;
}
.card.chosen {
  border-color: var(--ink);
  box-shadow: inset 0 0 0 1px var(--ink);
}
.card:focus-within {
  outline: 2px solid var(--pick);
  outline-offset: 2px;
}
.picture {
  display: grid;
  place-items: center;
  min-height: 0;
  padding: 10px;
  background: #fffdf7;
  border-bottom: 1px solid var(--rule);
}
.picture img {
  max-width: 100%;
  max-height: 112px;
}
.none {
  color: #5d6783;
}
.about {
  display: grid;
  align-content: start;
  gap: 2px;
  padding: 8px 12px 10px;
  overflow-wrap: anywhere;
}
.trouble {
  color: var(--flag);
}
input {
  accent-color: var(--ink);
}
</style>
