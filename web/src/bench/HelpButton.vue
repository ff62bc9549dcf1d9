<script setup lang="ts">
import { mdiHelpCircleOutline } from '@mdi/js'
import { ref } from 'vue'

import { useKeys } from '@/composables/keys'

import IconButton from './IconButton.vue'

const open = ref(false)
useKeys({ '?': () => (open.value = true) })

const KEYS: [string, string][] = [
  ['1', 'Art: as it will look'],
  ['2', 'Lines: what the tool follows'],
  ['0', 'show everything'],
  ['+ and -', 'nearer, farther; the wheel does it at the pointer'],
  ['arrows', 'move the work, when it is in focus; or drag it'],
  ['n and p', 'next and previous finding'],
  ['m', 'take the mend that is shown'],
  ['Ctrl z', 'go back one step'],
  ['Ctrl Shift z', 'come forward again'],
  ['?', 'this list'],
]
</script>

<template>
  <IconButton :icon="mdiHelpCircleOutline" name="Help" keys="?" @press="open = true" />
  <v-dialog v-model="open" max-width="520">
    <section class="help">
      <h2>Keys, and what the words mean</h2>
      <dl>
        <template v-for="[key, what] in KEYS" :key="key">
          <dt>
            <kbd>{{ key }}</kbd>
          </dt>
          <dd>{{ what }}</dd>
        </template>
      </dl>
      <p class="quiet">
        A <em>piece</em> is what comes away as one. A <em>layer</em> is what is made of one material or by one tool. A
        <em>finding</em> is a fault with its place; a <em>mend</em> is the change that removes it. Every step is kept as
        it is made.
      </p>
      <v-btn color="primary" @click="open = false">Close</v-btn>
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
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 6px 16px;
  margin: 0;
}
dd {
  margin: 0;
}
</style>
