/** Who is at the bench, in which units, by day or by night: kept in this browser. */
import { useStorage } from '@vueuse/core'
import { computed, shallowRef, watchEffect } from 'vue'
import { api, newId, told, type Schemas } from '@/api/client'

export type Preset = 'trade' | 'metric'

const shop = shallowRef<Schemas['ShopView']>()
const personId = useStorage('elvarn-person', '')
const units = useStorage<Preset>('elvarn-units', 'trade')
/** The gain that the bench is to show, in percent. */
const wantedGain = useStorage('elvarn-wanted-gain', 1)
const shade = useStorage<'yes' | 'no'>('elvarn-night', 'no')
const night = computed({
  get: () => shade.value === 'yes',
  set: (dark) => (shade.value = dark ? 'yes' : 'no'),
})

watchEffect(() => document.documentElement.classList.toggle('night', night.value))

async function loadShop(): Promise<void> {
  shop.value = await told(api.GET('/api/shop'))
  const { people } = shop.value
  if (!people.some((p) => p.id === personId.value)) personId.value = people[0]?.id ?? ''
}

async function addPerson(name: string): Promise<void> {
  const id = newId()
  await told(api.PUT('/api/people/{person_id}', { params: { path: { person_id: id } }, body: { name } }))
  await loadShop()
  personId.value = id
}

export function useSession() {
  return {
    shop,
    personId,
    units,
    wantedGain,
    night,
    person: computed(() => shop.value?.people.find((p) => p.id === personId.value)),
    loadShop,
    addPerson,
  }
}
