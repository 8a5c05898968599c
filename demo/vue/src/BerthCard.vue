<script setup lang="ts">
import { computed, useTemplateRef } from 'vue';
import { underKeel } from './depths';

/** One berth: who lies there, how much water is under the keel, and the way to release it. */
const { depth = 3.2, ...given } = defineProps<{
  berth: string;
  vessel: string | null;
  /** Metres. */
  draught?: number;
  length?: number;
  depth?: number;
}>();
const emit = defineEmits<{ release: [berth: string] }>();
const dialog = useTemplateRef('dialog');
const under = computed(() => (given.draught === undefined ? null : underKeel(depth, given.draught)));

function confirm(): void {
  dialog.value?.close();
  emit('release', given.berth);
}
</script>

<template>
  <section v-if="given.vessel === null" class="card" :aria-label="`Berth ${given.berth}`">
    <div class="row">
      <h2>{{ given.berth }}</h2>
      <span class="tag free">Free</span>
    </div>
    <p class="soft" style="margin: 0">Free berth, {{ depth }} m at low tide</p>
  </section>
  <section v-else class="card" :aria-label="`Berth ${given.berth}`">
    <div class="row">
      <h2>{{ given.berth }}</h2>
      <span class="tag taken">Moored</span>
    </div>
    <div>
      <strong>{{ given.vessel }}</strong>
      <span v-if="given.length !== undefined" class="soft"> · {{ given.length }} m</span>
    </div>
    <div v-if="under">
      <div :class="['meter', { shallow: under.metres < 0.5 }]"><i :style="{ width: `${under.width}%` }" /></div>
      <span class="soft">{{ under.words }}</span>
    </div>
    <div class="row">
      <button type="button" class="button" @click="dialog?.showModal()">Release berth</button>
    </div>
    <dialog ref="dialog" class="dialog" aria-labelledby="release">
      <h2 id="release">Release {{ given.berth }}?</h2>
      <p class="soft">{{ given.vessel }} loses its place, and the berth can be given to the next arrival.</p>
      <div class="row">
        <button type="button" class="button quiet" @click="dialog?.close()">Keep it</button>
        <button type="button" class="button danger" @click="confirm">Release</button>
      </div>
    </dialog>
  </section>
</template>
