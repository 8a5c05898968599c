<script lang="ts">
  import { book, purposes } from './arrivals';
  import DepthField from './DepthField.svelte';

  type Props = {
    berth: string;
    /** Metres of water at the berth. */
    depth: number;
    onArrived(arrival: { vessel: string; number: string }): void;
  };

  // Books a vessel in.
  let { berth, depth, onArrived }: Props = $props();
  let vessel = $state('');
  let draught: number | null = $state(null);
  let purpose = $state('visit');
  let goods = $state(false);
  let sending = $state(false);
  let wrong = $state('');
  let number = $state('');

  async function send(event: SubmitEvent): Promise<void> {
    event.preventDefault();
    sending = true;
    wrong = '';
    const booked = await book(berth, { vessel, draught, purpose, goods });
    sending = false;
    if ('wrong' in booked) {
      wrong = booked.wrong;
      return;
    }
    number = booked.number;
    onArrived({ vessel, number });
  }
</script>

{#if number}
  <section class="card" role="status">
    <h2>Welcome, {vessel}</h2>
    <p style="margin: 0">Berth {berth}, arrival <strong>{number}</strong></p>
  </section>
{:else}
  <form class="card" aria-label="Arrival at {berth}" onsubmit={send}>
    <h2>Arrival at {berth}</h2>
    <div class="field">
      <label for="vessel">Vessel</label>
      <div class="box"><input id="vessel" bind:value={vessel} disabled={sending} /></div>
    </div>
    <DepthField label="Draught" most={depth} disabled={sending} onDepth={(metres) => (draught = metres)} />
    <div class="field">
      <label for="purpose">Purpose</label>
      <div class="box">
        <select id="purpose" bind:value={purpose} disabled={sending}>
          {#each purposes as one (one.value)}
            <option value={one.value}>{one.label}</option>
          {/each}
        </select>
      </div>
    </div>
    <label><input type="checkbox" bind:checked={goods} disabled={sending} /> Dangerous goods on board</label>
    {#if wrong}
      <div class="notice gale" role="alert" style="width: auto">{wrong}</div>
    {/if}
    <div class="row">
      <button class="button" type="submit" disabled={sending || vessel === '' || draught === null}>
        {sending ? 'Booking…' : 'Book arrival'}
      </button>
    </div>
  </form>
{/if}
