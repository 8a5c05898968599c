<script setup lang="ts">
import { computed, ref, useId } from 'vue';
import { depthOf, wrongWith } from './depths';

/** A depth in metres: a number, its unit, and a word when there is not enough water for it. */
const {
  initial = '',
  least = 0.2,
  ...given
} = defineProps<{
  label: string;
  initial?: string;
  least?: number;
  most: number;
  disabled?: boolean;
}>();
const emit = defineEmits<{ depth: [metres: number | null] }>();
const id = useId();
const text = ref(initial);
const wrong = computed(() => wrongWith(text.value, least, given.most));

function change(event: Event): void {
  text.value = (event.target as HTMLInputElement).value;
  emit('depth', depthOf(text.value, least, given.most));
}
</script>

<template>
  <div class="field" :data-wrong="wrong ? '' : undefined">
    <label :for="id">{{ given.label }}</label>
    <div class="box">
      <input
        :id="id"
        type="number"
        step="0.1"
        :value="text"
        :disabled="given.disabled"
        :aria-invalid="wrong !== null"
        :aria-describedby="`${id}-wrong`"
        @input="change"
      />
      <span class="unit">m</span>
    </div>
    <span :id="`${id}-wrong`" class="wrong" :role="wrong ? 'alert' : undefined">{{ wrong }}</span>
  </div>
</template>
