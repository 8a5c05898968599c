<script>
let { shown, Frame, onError } = $props();
let component = $derived(shown.component);
let given = $derived(shown.given);
</script>

<svelte:boundary onerror={(error) => onError(error)}>
  {#if Frame}
    <Frame>
      {@const Component = component}
      <Component {...given} />
    </Frame>
  {:else}
    {@const Component = component}
    <Component {...given} />
  {/if}
  {#snippet failed()}{/snippet}
</svelte:boundary>
