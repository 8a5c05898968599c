<script setup lang="ts">
import '../harbour/src/harbour.css';
</script>

<template>
  <main class="sheet"><slot /></main>
</template>
