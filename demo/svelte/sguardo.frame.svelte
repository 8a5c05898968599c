<script lang="ts">
  import '../harbour/src/harbour.css';
  let { children } = $props();
</script>

<main class="sheet">{@render children()}</main>
