<script setup lang="ts">
import { mdiDownload } from '@mdi/js'
import { computed, ref, watch } from 'vue'

import { useLibrary } from '@/stores/library'
import { useLists, type Entry } from '@/stores/lists'
import { words } from '@/words'

import RowField from '../RowField.vue'

/** A test cut for a machine and a material: a grid of speeds and strengths, and the square of it that came out best. */
const props = defineProps<{ row: Entry }>()
const w = words.lists.test
const lists = useLists()
const library = useLibrary()
const machine = computed(() => library.library.machines.find((one) => one.id === props.row.machine))
const laser = computed(() => machine.value?.tool === 'laser')
const unit = computed(() => (laser.value ? '%' : 'g'))
const MOST = 10

/** Around what is set now: less, as it is, and more. */
function around(now: number, most: number): number[] {
  return [0.5, 0.75, 1, 1.25, 1.5].map((share) => Math.max(Math.round(now * share), 1)).filter((value) => value <= most)
}
const speeds = ref<number[]>([])
const strengths = ref<number[]>([])
watch(
  () => [props.row.id, props.row.machine],
  () => {
    speeds.value = around(Number(props.row.speed_mm_s ?? machine.value?.speed_mm_s ?? 40), machine.value?.most_speed_mm_s ?? 5000)
    const now = laser.value ? (props.row.power_percent ?? 60) : (props.row.force_g ?? machine.value?.force_g ?? 100)
    strengths.value = around(Number(now), laser.value ? 100 : 10_000)
  },
  { immediate: true },
)
function numbers(text: string): number[] | undefined {
  const found = text
    .split(/[,;\s]+/)
    .filter(Boolean)
    .map(Number)
  return found.length && found.length <= MOST && found.every((one) => one > 0) ? found : undefined
}
const typed = (text: string) => (numbers(text) ? text : undefined)
const address = computed(() => {
  const asked = new URLSearchParams({ machine: String(props.row.machine), material: String(props.row.material) })
  speeds.value.forEach((value) => asked.append('speeds', String(value)))
  strengths.value.forEach((value) => asked.append('strengths', String(value)))
  return `/api/library/cutting-test?${asked}`
})
const isKept = (speed: number, strength: number) =>
  props.row.speed_mm_s === speed && (laser.value ? props.row.power_percent : props.row.force_g) === strength
function keep(speed: number, strength: number) {
  const values = { speed_mm_s: speed, [laser.value ? 'power_percent' : 'force_g']: strength }
  void lists.set('settings', props.row.id, values, w.kept(props.row.name, w.cell(speed, strength, unit.value)))
}
</script>

<template>
  <fieldset v-if="machine" class="test" :disabled="lists.busy">
    <legend>{{ w.title }}</legend>
    <p class="small quiet">{{ w.about }}</p>
    <RowField
      class="wide"
      :label="w.speeds"
      :value="speeds.join(', ')"
      :show="String"
      :read="typed"
      :wrong="w.wrong"
      needed
      @take="(v: string) => (speeds = numbers(v) ?? speeds)"
    />
    <RowField
      class="wide"
      :label="laser ? w.powers : w.forces"
      :value="strengths.join(', ')"
      :show="String"
      :read="typed"
      :wrong="w.wrong"
      needed
      @take="(v: string) => (strengths = numbers(v) ?? strengths)"
    />
    <v-btn variant="outlined" size="small" :prepend-icon="mdiDownload" :href="address" download>{{ w.write }}</v-btn>
    <p class="small">{{ w.which }}</p>
    <div class="grid" role="group" :aria-label="w.which" :style="{ gridTemplateColumns: `auto repeat(${speeds.length}, 40px)` }">
      <span />
      <span v-for="speed in speeds" :key="speed" class="small quiet head">{{ speed }}</span>
      <template v-for="strength in strengths" :key="strength">
        <span class="small quiet side">{{ strength }} {{ unit }}</span>
        <button
          v-for="speed in speeds"
          :key="speed"
          type="button"
          :aria-label="w.cell(speed, strength, unit)"
          :aria-pressed="isKept(speed, strength)"
          @click="keep(speed, strength)"
        >
          <svg viewBox="0 0 10 10" aria-hidden="true"><path d="M3 7H7L5 3Z" /></svg>
        </button>
      </template>
    </div>
  </fieldset>
</template>

<style scoped>
.test {
  grid-column: 1;
  margin: 0;
  padding: 12px 16px 16px;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--panel);
  display: grid;
  gap: 8px;
  justify-items: start;
}
legend {
  padding: 0 6px;
  font-weight: 600;
}
p {
  margin: 0;
}
.grid {
  display: grid;
  gap: 6px;
  align-items: center;
}
.head {
  text-align: center;
}
.side {
  text-align: right;
}
.grid button {
  width: 36px;
  height: 36px;
  padding: 4px;
  border: 1.5px solid var(--edge);
  border-radius: 3px;
  background: var(--raised);
  cursor: pointer;
}
.grid button:hover {
  border-color: var(--ink);
}
.grid button[aria-pressed='true'] {
  background: var(--pick);
  border-color: var(--pick);
}
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 0.5;
}
[aria-pressed='true'] path {
  stroke: #fff;
}
</style>
