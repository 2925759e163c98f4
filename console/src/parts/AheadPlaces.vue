<script setup lang="ts">
/** The ways of looking ahead. */
</script>

<template>
  <nav class="switch" aria-label="What is ahead">
    <RouterLink to="/ahead" :aria-current="$route.path === '/ahead' ? 'page' : undefined">By dates</RouterLink>
    <RouterLink to="/ahead/departures" :aria-current="$route.path === '/ahead/departures' ? 'page' : undefined">Departures</RouterLink>
    <RouterLink to="/ahead/suspended" :aria-current="$route.path === '/ahead/suspended' ? 'page' : undefined">Suspended</RouterLink>
  </nav>
</template>
