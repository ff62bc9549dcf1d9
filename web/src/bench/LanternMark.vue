<template>
  <router-link to="/" class="mark" aria-label="All jobs">
    <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
      <path d="M9 4h6M9 20h6M12 1.500v2.500M12 20v2.500" />
      <path d="M9 4C5 6 4 9 4 12s1 6 5 8h6c4-2 5-5 5-8s-1-6-5-8z" />
      <path d="M9.500 4c-1.500 5-1.500 11 0 16M14.500 4c1.500 5 1.500 11 0 16" />
    </svg>
  </router-link>
</template>

<style scoped>
.mark {
  display: grid;
  place-items: center;
  width: 30px;
  height: 30px;
  border-radius: 8px;
  color: var(--ink);
}
path {
  fill: none;
  stroke: currentcolor;
  stroke-width: 1.6;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
