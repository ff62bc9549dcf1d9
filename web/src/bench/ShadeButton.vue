<script setup lang="ts">
import { mdiWeatherNight, mdiWhiteBalanceSunny } from '@mdi/js'

import { useShade } from '@/composables/shade'

import IconButton from './IconButton.vue'

const { shade, flip } = useShade()
</script>

<template>
  <IconButton
    :icon="shade === 'light' ? mdiWeatherNight : mdiWhiteBalanceSunny"
    :name="shade === 'light' ? 'Dark' : 'Light'"
    @press="flip"
  />
</template>
