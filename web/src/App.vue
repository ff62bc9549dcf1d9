<script setup lang="ts">
import SetupNotice from '@/bench/SetupNotice.vue'
import { announced } from '@/composables/announce'
import { useShade } from '@/composables/shade'
import { useSetup } from '@/stores/setup'

useShade()
const setup = useSetup()
void setup.follow()
</script>

<template>
  <v-app>
    <router-view :key="setup.turn" />
    <SetupNotice />
    <div class="unseen" role="status" aria-live="polite" data-announced>{{ announced }}</div>
  </v-app>
</template>
