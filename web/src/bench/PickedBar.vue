<script setup lang="ts">
import { mdiClose } from '@mdi/js'
import { computed } from 'vue'

import { usePickedFigures } from '@/composables/pickedFigures'
import { colourOf, usePicks, type Level, type Likeness } from '@/stores/picks'
import { words } from '@/words'

import IconButton from './IconButton.vue'
import LayerField from './LayerField.vue'
import PickedActs from './PickedActs.vue'

/** What is picked, in figures, and what can be done with it. */
const picks = usePicks()
const { what, figures, touched, place, copied } = usePickedFigures()
const w = words.picked

const LEVELS: Level[] = ['piece', 'outline', 'node']
const LIKE: Likeness[] = ['colour', 'layer', 'size', 'kind', 'inside', 'others']
/** The colour of what is picked, where it is one. */
const colour = computed(() => {
  const all = new Set(picks.pieces.flatMap((id) => picks.byId.get(id) ?? []).map(colourOf))
  return all.size === 1 ? [...all][0] : ''
})
</script>

<template>
  <section v-if="picks.picks.length" class="picked" :aria-label="w.title">
    <div class="row">
      <button
        v-if="colour"
        class="swatch"
        :style="{ background: colour }"
        :title="w.like.colour"
        :aria-label="w.allOf(colour)"
        @click="picks.pickAlike('colour')"
      />
      <b class="what">{{ what }}</b>
      <span v-for="[label, value] in figures" :key="label" class="figure"
        >{{ label }} <b>{{ value }}</b></span
      >
      <span v-if="place" class="figure">{{ place }}</span>
      <span v-if="touched" class="figure touched"
        >{{ touched[0] }} <b>{{ touched[1] }}</b></span
      >
      <span v-if="picks.problem" class="flag">{{ picks.problem }}</span>
      <span class="close"><IconButton :icon="mdiClose" :name="w.letGo" keys="Esc" @press="picks.clear()" /></span>
    </div>
    <div class="row">
      <div class="levels" role="group" :aria-label="w.level">
        <button
          v-for="level in LEVELS"
          :key="level"
          :class="{ on: picks.level === level }"
          :aria-pressed="picks.level === level"
          @click="picks.level = level"
        >
          {{ w.levels[level] }}
        </button>
      </div>
      <v-menu location="top">
        <template #activator="{ props: menu }">
          <button v-bind="menu" class="plain">{{ w.more }}</button>
        </template>
        <ul class="menu">
          <li v-for="how in LIKE" :key="how">
            <button @click="picks.pickAlike(how)">
              {{ w.like[how] }} <span class="quiet">{{ picks.alike(how).length }}</span>
            </button>
          </li>
        </ul>
      </v-menu>
      <LayerField />
      <span class="spring" />
      <PickedActs :text="copied" />
    </div>
  </section>
</template>

<style scoped>
.picked {
  position: absolute;
  left: 16px;
  right: 16px;
  bottom: 12px;
  display: grid;
  gap: 2px;
  padding: 6px 10px 6px 14px;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--raised);
  box-shadow: 0 4px 16px rgb(27 42 78 / 0.14);
  font-size: 12.5px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 8px;
}
.swatch {
  flex: none;
  width: 20px;
  height: 20px;
  padding: 0;
  border: 1px solid var(--edge);
  border-radius: 4px;
  cursor: pointer;
}
.what {
  font-size: 14px;
  max-width: 220px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.figure {
  color: var(--ink-2);
  white-space: nowrap;
}
.figure b {
  color: var(--ink);
}
.touched b {
  color: var(--pick);
}
.close {
  position: absolute;
  right: 6px;
  top: 4px;
}
.row:first-child {
  min-height: 28px;
  padding-right: 36px;
}
.flag {
  color: var(--flag);
}
.spring {
  flex: 1;
}
.levels {
  display: flex;
  border: 1px solid var(--rule);
  border-radius: 8px;
  overflow: hidden;
}
.levels button,
.plain {
  height: 28px;
  padding: 0 9px;
  border: 0;
  background: none;
  font-weight: 600;
  cursor: pointer;
}
.levels button.on {
  background: var(--ink);
  color: var(--on-ink);
}
.plain {
  border: 1px solid var(--edge);
  border-radius: 8px;
  background: var(--panel);
}
</style>
