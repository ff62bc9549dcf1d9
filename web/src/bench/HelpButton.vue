<script setup lang="ts">
import { mdiHelpCircleOutline } from '@mdi/js'
import { ref } from 'vue'

import { useKeys } from '@/composables/keys'
import { useTour } from '@/composables/tour'
import { words } from '@/words'

import IconButton from './IconButton.vue'

/** The sheet of the keys, what the words mean, and the tour again. */
const open = ref(false)
const tour = useTour()
useKeys({ '?': () => (open.value = true) })
const w = words.help

function again() {
  open.value = false
  tour.begin()
}
</script>

<template>
  <IconButton :icon="mdiHelpCircleOutline" :name="w.name" keys="?" @press="open = true" />
  <v-dialog v-model="open" max-width="760" :aria-label="w.title">
    <section class="help">
      <h2>{{ w.title }}</h2>
      <div class="groups">
        <div v-for="group in w.groups" :key="group.name">
          <h3>{{ group.name }}</h3>
          <dl>
            <template v-for="[key, what] in group.keys" :key="key">
              <dt>
                <kbd>{{ key }}</kbd>
              </dt>
              <dd>{{ what }}</dd>
            </template>
          </dl>
        </div>
      </div>
      <p class="quiet">{{ w.meaning }}</p>
      <div class="row">
        <v-btn color="primary" @click="open = false">{{ w.close }}</v-btn>
        <v-btn v-if="tour.possible" variant="text" @click="again">{{ w.tour }}</v-btn>
      </div>
    </section>
  </v-dialog>
</template>

<style scoped>
.help {
  background: var(--panel);
  color: var(--ink);
  border-radius: 10px;
  padding: 24px;
  display: grid;
  gap: 16px;
  justify-items: start;
  overflow: auto;
}
.groups {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 16px 32px;
  width: 100%;
}
dl {
  display: grid;
  grid-template-columns: minmax(84px, max-content) 1fr;
  gap: 5px 12px;
  margin: 6px 0 0;
}
dd {
  margin: 0;
}
.row {
  display: flex;
  gap: 8px;
}
</style>
