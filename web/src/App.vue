<script setup lang="ts">
import { announced } from '@/composables/announce'
import { useShade } from '@/composables/shade'

useShade()
</script>

<template>
  <v-app>
    <router-view />
    <div class="unseen" role="status" aria-live="polite" data-announced>{{ announced }}</div>
  </v-app>
</template>
