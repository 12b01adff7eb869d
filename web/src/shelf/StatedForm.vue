<script setup lang="ts">
/** What is said of a part: by its maker, of what it meets, by its seller. */
import Button from 'primevue/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import KeyCap from '@/frame/KeyCap.vue'
import CheckField from '@/ui/CheckField.vue'
import SavedNote from '@/ui/SavedNote.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import TextField from '@/ui/TextField.vue'
import { BORE_FORMS, HAD, type PartForm } from './form'

const props = defineProps<{ sheet: Schemas['PartSheet']; kept: boolean; dirty: boolean; undoable: boolean }>()
const form = defineModel<PartForm>({ required: true })
const emit = defineEmits<{ keep: []; drop: []; undo: [] }>()
/** How many lie here, with what is spoken for of them. */
const hereLabel = computed(() => {
  const { promised, ordered } = props.sheet.stock
  const said = [promised && `${promised} promised`, ordered && `${ordered} ordered`].filter(Boolean)
  return ['Here', ...said].join(', ')
})
</script>

<template>
  <form class="stated" @submit.prevent="emit('keep')">
    <h2>Part details</h2>
    <div class="grid">
      <TextField v-model="form.name" place="name" label="Name" small />
      <TextField v-model="form.maker" label="Maker" small />
      <TextField v-model="form.number" label="Number" small />
      <TextField v-model="form.material" label="Material" small />
      <TextField v-model="form.price" place="price" label="Price" small />
      <TextField v-model="form.lead" place="lead_days" label="Lead time, days" small />
      <TextField v-model="form.mass" place="mass_kg" label="Weight, kg" small />
      <TextField v-model="form.here" place="on_hand" :label="hereLabel" small />
      <TextField v-model="form.boost" place="features.boost_kpa" label="Boost rating, kPa" small />
      <TextField v-model="form.heat" place="features.heat_limit_c" label="Max temperature, °C" small />
    </div>
    <div class="grid had">
      <ChoiceField v-model="form.had" label="How it is had" :options="HAD" small />
      <template v-if="form.had === 'run'">
        <TextField v-model="form.nextRun" place="features.next_run_on" label="Next run" type="date" small />
        <TextField v-model="form.places" place="features.run_places" label="Places in it" small />
      </template>
      <TextField
        v-if="form.had === 'exchange'"
        v-model="form.offRoad"
        place="features.off_road_days"
        label="Days off the road"
        small
      />
      <CheckField v-model="form.withTax" label="tax included" />
    </div>
    <div class="grid wide">
      <TextField v-model="form.inBox" label="In the box: gasket, four bolts" small />
      <TextField v-model="form.besides" label="Must be bought besides: fuel rail, coupler" small />
      <TextField
        v-model="form.weaknesses"
        place="features.weaknesses"
        label="Known weaknesses: what / who says so / sticks or swallowed"
        small
      />
    </div>
    <h3>Advertised</h3>
    <div class="grid">
      <TextField v-model="form.advertisedBore" place="advertised.bore_mm" label="Bore, mm" small />
      <TextField v-model="form.advertisedOut" place="advertised.bore_out_mm" label="Outlet bore, mm" small />
      <TextField v-model="form.advertisedLength" place="advertised.length_mm" label="Length, mm" small />
      <TextField v-model="form.advertisedVolume" place="advertised.volume_l" label="Volume, L" small />
      <TextField v-model="form.advertisedFlow" place="advertised.flow_cfm" label="Flow, CFM" small />
    </div>
    <h3>Connections</h3>
    <div class="grid">
      <template v-for="end in ['inlet', 'outlet'] as const" :key="end">
        <TextField
          v-model="form[end].opening"
          :place="`features.${end}.opening_mm`"
          :label="`${end} opening, mm`"
          small
        />
        <TextField
          v-model="form[end].bolts"
          :place="`features.${end}.bolt_`"
          label="bolts: 4, 66 × 66"
          small
        />
        <TextField
          v-model="form[end].outside"
          :place="`features.${end}.outside_mm`"
          label="spigot, mm"
          small
        />
      </template>
      <TextField
        v-if="sheet.kind === 'throttle'"
        v-model="form.swing"
        place="features.swing_mm"
        label="Blade reach past face, mm"
        small
      />
      <ChoiceField
        v-if="sheet.kind === 'throttle'"
        v-model="form.boreForm"
        label="Bore round the plate"
        :options="BORE_FORMS"
        small
      />
      <TextField
        v-if="sheet.kind === 'throttle' || sheet.kind === 'inlet'"
        v-model="form.setOf"
        place="features.set_of"
        label="Bodies in one set"
        small
      />
      <TextField v-model="form.flangeMetal" place="features.flange_metal_mm" label="Flange wall, mm" small />
      <template v-if="sheet.kind === 'compressor'">
        <TextField
          v-model="form.efficiency"
          place="features.efficiency_percent"
          label="Efficiency, %"
          small
        />
        <TextField
          v-model="form.ratioLimit"
          place="features.ratio_limit"
          label="Highest pressure ratio"
          small
        />
      </template>
      <TextField
        v-if="sheet.kind === 'nitrous'"
        v-model="form.nitrous"
        place="features.nitrous_kw"
        label="Its jets give, as stated"
        placeholder="75 hp"
        small
      />
      <template v-if="sheet.kind === 'cooler'">
        <TextField v-model="form.cooling" place="features.cooling_percent" label="Effectiveness, %" small />
        <TextField v-model="form.drop" place="features.drop_kpa" label="Drop, kPa" small />
        <TextField v-model="form.dropAt" place="features.drop_at_cfm" label="at, CFM of outside air" small />
      </template>
      <template v-if="sheet.kind === 'manifold'">
        <TextField v-model="form.runners" place="features.runners" label="Runners" small />
        <TextField v-model="form.headFlange" place="features.head_flange" label="Head flange" small />
        <TextField v-model="form.portPitch" place="features.port_pitch_mm" label="Port pitch, mm" small />
        <TextField v-model="form.bankAngle" place="features.bank_angle_deg" label="Bank angle, °" small />
      </template>
      <TextField v-model="form.casting" label="Casting or shell" small />
      <TextField v-model="form.height" place="features.height_mm" label="Height above flange, mm" small />
      <TextField v-model="form.rear" place="features.rear_mm" label="Reach to the rear, mm" small />
      <TextField v-model="form.side" place="features.side_mm" label="Reach to the side, mm" small />
      <TextField
        v-if="sheet.kind === 'manifold'"
        v-model="form.plates"
        place="features.plates"
        label="Plates: 10 spacer; 3"
        small
      />
      <TextField v-model="form.front" place="features.front_length_mm" label="Front length, mm" small />
      <CheckField v-model="form.weldable" label="can be welded" />
      <CheckField v-model="form.welded" label="is welded" />
      <CheckField v-model="form.splits" label="two-piece" />
    </div>
    <div class="grid wide">
      <TextField v-model="form.ports" label="Vacuum ports: brake servo, purge, breather" small />
      <TextField
        v-model="form.homes"
        place="features.homes"
        label="Bosses (name, mm): pressure sensor 12.7, injector 13.8"
        small
      />
      <TextField
        v-model="form.plugs"
        label="Connectors: throttle position / six-way / two tracks, opposed"
        small
      />
      <TextField v-model="form.fouls" label="Fouls (accessories): coolant bottle" small />
      <TextField v-model="form.fuels" label="Fuels rated for: petrol, E85" small />
      <TextField
        v-if="sheet.kind === 'tube'"
        v-model="form.bends"
        place="features.bends"
        label="Bends, angle at radius over bore: 45 at 1.5; 30 at 1.5"
        small
      />
      <TextField
        v-if="sheet.kind === 'manifold'"
        v-model="form.sections"
        place="features.sections"
        label="Runner sections from plenum (length of bore): 120 of 46; 190 of 42 × 38"
        small
      />
      <p class="line">
        <CheckField v-model="form.ribbed" label="ribbed" />
        <CheckField v-model="form.cast" label="as cast" />
      </p>
      <TextField v-model="form.claims" label="Claims, separated by ;" small />
      <TextField v-model="form.note" label="Shop notes" small />
    </div>
    <p class="line">
      <Button type="submit" size="small">Save <KeyCap k="K" /></Button>
      <template v-if="dirty">
        <span class="quiet">not saved yet</span>
        <button type="button" class="way" @click="emit('drop')">Discard changes</button>
      </template>
      <SavedNote v-else-if="kept" :undoable="undoable" @undo="emit('undo')" />
    </p>
  </form>
</template>

<style scoped>
h2 {
  padding: 8px 0 4px;
}
h3 {
  padding-top: 8px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px 12px;
}
.had {
  padding-top: 6px;
  align-items: end;
}
.grid.wide {
  grid-template-columns: minmax(0, 1fr);
  padding-top: 6px;
}
.grid :deep(.p-inputtext) {
  width: 100%;
}
.line {
  display: flex;
  gap: 14px;
  align-items: center;
  padding-top: 10px;
}
</style>
