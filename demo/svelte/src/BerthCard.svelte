<script lang="ts">
  import { underKeel } from './depths';

  type Props = {
    berth: string;
    vessel: string | null;
    /** Metres. */
    draught?: number;
    length?: number;
    depth?: number;
    onRelease(berth: string): void;
  };

  // One berth: who lies there, how much water is under the keel, and the way to release it.
  let { berth, vessel, draught, length, depth = 3.2, onRelease }: Props = $props();
  let dialog: HTMLDialogElement | undefined = $state();
  let under = $derived(draught === undefined ? null : underKeel(depth, draught));

  function confirm(): void {
    dialog?.close();
    onRelease(berth);
  }
</script>

{#if vessel === null}
  <section class="card" aria-label="Berth {berth}">
    <div class="row">
      <h2>{berth}</h2>
      <span class="tag free">Free</span>
    </div>
    <p class="soft" style="margin: 0">Free berth, {depth} m at low tide</p>
  </section>
{:else}
  <section class="card" aria-label="Berth {berth}">
    <div class="row">
      <h2>{berth}</h2>
      <span class="tag taken">Moored</span>
    </div>
    <div>
      <strong>{vessel}</strong>
      {#if length !== undefined}<span class="soft"> · {length} m</span>{/if}
    </div>
    {#if under}
      <div>
        <div class={['meter', under.metres < 0.5 && 'shallow']}><i style="width: {under.width}%"></i></div>
        <span class="soft">{under.words}</span>
      </div>
    {/if}
    <div class="row">
      <button type="button" class="button" onclick={() => dialog?.showModal()}>Release berth</button>
    </div>
    <dialog bind:this={dialog} class="dialog" aria-labelledby="release">
      <h2 id="release">Release {berth}?</h2>
      <p class="soft">{vessel} loses its place, and the berth can be given to the next arrival.</p>
      <div class="row">
        <button type="button" class="button quiet" onclick={() => dialog?.close()}>Keep it</button>
        <button type="button" class="button danger" onclick={confirm}>Release</button>
      </div>
    </dialog>
  </section>
{/if}
