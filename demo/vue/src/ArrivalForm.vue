<script setup lang="ts">
import { ref } from 'vue';
import { book, purposes } from './arrivals';
import DepthField from './DepthField.vue';

/** Books a vessel in. */
const { berth, depth } = defineProps<{ berth: string /** Metres of water at the berth. */; depth: number }>();
const emit = defineEmits<{ arrived: [arrival: { vessel: string; number: string }] }>();
const vessel = ref('');
const draught = ref<number | null>(null);
const purpose = ref('visit');
const goods = ref(false);
const sending = ref(false);
const wrong = ref('');
const number = ref('');

async function send(): Promise<void> {
  sending.value = true;
  wrong.value = '';
  const arrival = { vessel: vessel.value, draught: draught.value, purpose: purpose.value, goods: goods.value };
  const booked = await book(berth, arrival);
  sending.value = false;
  if ('wrong' in booked) {
    wrong.value = booked.wrong;
    return;
  }
  number.value = booked.number;
  emit('arrived', { vessel: vessel.value, number: booked.number });
}
</script>

<template>
  <section v-if="number" class="card" role="status">
    <h2>Welcome, {{ vessel }}</h2>
    <p style="margin: 0">
      Berth {{ berth }}, arrival <strong>{{ number }}</strong>
    </p>
  </section>
  <form v-else class="card" :aria-label="`Arrival at ${berth}`" @submit.prevent="send">
    <h2>Arrival at {{ berth }}</h2>
    <div class="field">
      <label for="vessel">Vessel</label>
      <div class="box"><input id="vessel" v-model="vessel" :disabled="sending" /></div>
    </div>
    <DepthField label="Draught" :most="depth" :disabled="sending" @depth="draught = $event" />
    <div class="field">
      <label for="purpose">Purpose</label>
      <div class="box">
        <select id="purpose" v-model="purpose" :disabled="sending">
          <option v-for="one of purposes" :key="one.value" :value="one.value">{{ one.label }}</option>
        </select>
      </div>
    </div>
    <label><input v-model="goods" type="checkbox" :disabled="sending" /> Dangerous goods on board</label>
    <div v-if="wrong" class="notice gale" role="alert" style="width: auto">{{ wrong }}</div>
    <div class="row">
      <button class="button" type="submit" :disabled="sending || vessel === '' || draught === null">
        {{ sending ? 'Booking…' : 'Book arrival' }}
      </button>
    </div>
  </form>
</template>
