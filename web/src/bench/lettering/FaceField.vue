<script setup lang="ts">
import { computed, onMounted } from 'vue'

import { useDraft } from '@/stores/draft'
import { useFaces } from '@/stores/faces'
import { words } from '@/words'

/** A face in its place in a sentence: its name; a press shows all faces. */
const props = defineProps<{ name: string; label: string; value: string }>()
const draft = useDraft()
const faces = useFaces()
const w = words.lettering
const open = computed(() => draft.choosing === props.name)
const said = computed(() => faces.byId(props.value)?.name ?? (props.value.length === 64 ? w.ownFace : props.value))
onMounted(() => void faces.look('', 20))
</script>

<template>
  <button class="face" :aria-expanded="open" :aria-label="`${label}: ${said}`" @click="draft.choosing = open ? '' : name">
    {{ said }} <span class="arrow" :class="{ up: open }" aria-hidden="true" />
  </button>
</template>

<style scoped>
.face {
  margin: 0 3px;
  min-height: 28px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--raised);
  color: var(--ink);
  font: inherit;
  line-height: 1.3;
  font-weight: 700;
  cursor: pointer;
}
.arrow {
  display: inline-block;
  width: 7px;
  height: 7px;
  margin-left: 4px;
  border: solid currentcolor;
  border-width: 0 2px 2px 0;
  transform: translateY(-2px) rotate(45deg);
}
.arrow.up {
  transform: translateY(1px) rotate(-135deg);
}
</style>
