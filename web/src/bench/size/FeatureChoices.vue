<script setup lang="ts">
import { computed } from 'vue'

import { useJob } from '@/stores/job'
import { useLibrary } from '@/stores/library'
import { words } from '@/words'

/** Kinds of features, each one press: to size by, or to measure. */
const props = defineProps<{ operation: string; parameter: string; title: string; hint: string }>()
const emit = defineEmits<{ choose: [kind: string] }>()
const jobs = useJob()
const library = useLibrary()
const w = words.size
const kinds = computed(() => library.operation(props.operation)?.parameters.find((one) => one.name === props.parameter)?.choices ?? [])
</script>

<template>
  <div class="part">
    <h3>{{ title }}</h3>
    <p class="small quiet">{{ hint }}</p>
    <slot />
    <div class="chips">
      <button
        v-for="kind in kinds"
        :key="kind.value"
        class="chip"
        :disabled="!!jobs.busy"
        :aria-label="`${title}: ${w.kinds[kind.value]}`"
        @click="emit('choose', kind.value)"
      >
        {{ w.kinds[kind.value] }}
      </button>
    </div>
  </div>
</template>
