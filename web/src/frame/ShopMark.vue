<script setup lang="ts">
/** Units, day or night, the keys: at the end of every head. */
import KeyCap from './KeyCap.vue'
import { useSession } from './session'
import Waiting from './Waiting.vue'
import WhoPicker from './WhoPicker.vue'

const { units, night } = useSession()
const showKeys = () => dispatchEvent(new KeyboardEvent('keydown', { key: '?' }))
</script>

<template>
  <div class="shop-mark">
    <Waiting />
    <WhoPicker />
    <button type="button" class="switch" @click="units = units === 'trade' ? 'metric' : 'trade'">
      {{ units === 'trade' ? 'CFM' : 'm³/h' }} <KeyCap k="Y" />
    </button>
    <button type="button" class="switch" @click="night = !night">
      {{ night ? 'night' : 'day' }} <KeyCap k="M" />
    </button>
    <button type="button" class="switch" aria-label="Keys" @click="showKeys"><KeyCap k="?" /></button>
  </div>
</template>

<style scoped>
.shop-mark {
  display: flex;
  gap: 14px;
  align-items: center;
  white-space: nowrap;
}
.switch {
  background: none;
  border: 0;
  padding: 2px 0;
  cursor: pointer;
  font: 500 15px var(--narrow);
  color: var(--quiet);
}
</style>
