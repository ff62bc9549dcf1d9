<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { computed } from 'vue'

import { mm } from '@/composables/lengths'
import { useDraft } from '@/stores/draft'
import { words } from '@/words'

import IconButton from '../IconButton.vue'

/** Features whose true sizes are fitted together with the one in the sentence, and what remains of each. */
interface Feature {
  feature: string
  at: number[]
  to_mm: number
}
const draft = useDraft()
const w = words.size
const others = computed(() => (draft.values.others as { features?: Feature[] } | undefined)?.features ?? [])
/** What remains: of the one in the sentence first. */
const rest = (number: number) => {
  const by = Number(draft.shown?.statistics[`rest_${number}_mm`] ?? 0)
  return Math.abs(by) < 0.0005 ? '' : `${by > 0 ? '+' : '−'}${mm(Math.abs(by))} mm`
}
const put = (features: Feature[]) => draft.setAll({ others: features.length ? { features } : undefined })

/** The one in the sentence joins the others, and the next takes its place. */
function another() {
  const { feature = 'hole', at, ends, to_mm } = draft.values as { feature?: string; at?: number[]; ends?: number[]; to_mm: number }
  draft.setAll({
    others: { features: [...others.value, { feature, at: at ?? ends!, to_mm }] },
    at: undefined,
    ends: undefined,
    to_mm: undefined,
  })
}
const ready = computed(() => !!draft.values.to_mm && !!(draft.values.at || draft.values.ends))
</script>

<template>
  <div v-if="ready || others.length" class="rows">
    <ul v-if="others.length" :aria-label="w.others">
      <li v-for="(one, k) in others" :key="k">
        <span>{{ w.kinds[one.feature] }} {{ mm(one.to_mm) }} mm</span>
        <span class="small quiet">{{ rest(k + 2) }}</span>
        <IconButton
          :icon="mdiClose"
          :name="w.takeAway(`${w.kinds[one.feature]} ${mm(one.to_mm)} mm`)"
          @press="put(others.filter((_, n) => n !== k))"
        />
      </li>
    </ul>
    <button v-if="ready" class="link" :title="w.anotherHint" @click="another">{{ w.another }}</button>
  </div>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 4px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
}
.link {
  justify-self: start;
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink-2);
  text-decoration: underline;
  cursor: pointer;
}
</style>
