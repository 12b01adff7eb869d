/** A short sound when a figure was taken, for whoever looks at the part and not at the screen. Off until wanted. */
import { ref } from 'vue'

const KEY = 'elvarn-sound'
export const sound = ref(localStorage.getItem(KEY) === 'on')
let context: AudioContext | undefined

export function toggleSound(): void {
  sound.value = !sound.value
  localStorage.setItem(KEY, sound.value ? 'on' : 'off')
  tell()
}

/** One short tone: high for a figure that was taken, low for one that was not. */
export function tell(taken = true): void {
  if (!sound.value) return
  context ??= new AudioContext()
  const tone = context.createOscillator()
  const level = context.createGain()
  tone.frequency.value = taken ? 880 : 220
  level.gain.setValueAtTime(0.2, context.currentTime)
  level.gain.exponentialRampToValueAtTime(0.001, context.currentTime + 0.15)
  tone.connect(level).connect(context.destination)
  tone.start()
  tone.stop(context.currentTime + 0.16)
}
