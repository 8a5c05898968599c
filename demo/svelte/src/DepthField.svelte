<script lang="ts">
  import { depthOf, wrongWith } from './depths';

  type Props = {
    label: string;
    initial?: string;
    least?: number;
    most: number;
    disabled?: boolean;
    onDepth(metres: number | null): void;
  };

  // A depth in metres: a number, its unit, and a word when there is not enough water for it.
  let { label, initial = '', least = 0.2, most, disabled, onDepth }: Props = $props();
  const id = $props.id();
  // svelte-ignore state_referenced_locally
  let text = $state(initial);
  let wrong = $derived(wrongWith(text, least, most));

  function change(event: Event): void {
    text = (event.target as HTMLInputElement).value;
    onDepth(depthOf(text, least, most));
  }
</script>

<div class="field" data-wrong={wrong ? '' : undefined}>
  <label for={id}>{label}</label>
  <div class="box">
    <input
      {id}
      type="number"
      step="0.1"
      value={text}
      {disabled}
      aria-invalid={wrong !== null}
      aria-describedby="{id}-wrong"
      oninput={change}
    />
    <span class="unit">m</span>
  </div>
  <span class="wrong" id="{id}-wrong" role={wrong ? 'alert' : undefined}>{wrong ?? ''}</span>
</div>
