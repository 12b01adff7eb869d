<script setup lang="ts">
/** What the part has to fit: the vehicle, the engine's faces, what hangs on the manifold, and what the rules allow. */
import CheckField from '@/ui/CheckField.vue'
import ChoiceField from '@/ui/ChoiceField.vue'
import TextField from '@/ui/TextField.vue'
import { BRAKES, NOISE, RULES, type SurroundingsForm } from './surroundings'

defineProps<{ banks: number }>()
const form = defineModel<SurroundingsForm>({ required: true })
</script>

<template>
  <h3 class="wide">What the part has to fit</h3>
  <TextField
    label="Bonnet clearance above flange, mm"
    v-model="form.bonnet"
    place="surroundings.bonnet_height_mm"
    small
  />
  <TextField
    label="Current front length, mm"
    v-model="form.front"
    place="surroundings.front_length_mm"
    small
  />
  <TextField label="Room to the rear, mm" v-model="form.rear" place="surroundings.rear_mm" small />
  <TextField label="Room to the side, mm" v-model="form.side" place="surroundings.side_mm" small />
  <TextField label="Nearby temperature, °C" v-model="form.heat" place="surroundings.heat_c" small />
  <TextField label="Head flange: family or casting" v-model="form.headFlange" small />
  <TextField label="Port pitch, mm" v-model="form.portPitch" place="surroundings.port_pitch_mm" small />
  <TextField
    v-if="banks > 1"
    label="Angle between banks, °"
    v-model="form.bankAngle"
    place="surroundings.bank_angle_deg"
    small
  />
  <ChoiceField label="Brake assistance" v-model="form.brakes" :options="BRAKES" small />
  <ChoiceField label="Intake noise" v-model="form.noise" :options="NOISE" small />
  <CheckField v-model="form.welding" label="Welding planned" />
  <TextField label="Vacuum ports needed: purge, breather" class="two" v-model="form.ports" small />
  <TextField label="Accessories nearby: alternator" v-model="form.accessories" small />
  <TextField
    label="Bosses needed (name, mm): injector 13.8"
    class="wide"
    v-model="form.homes"
    place="surroundings.homes"
    small
  />
  <TextField
    label="Harness connectors: throttle position / six-way / two tracks, opposed"
    wide
    v-model="form.plugs"
    small
  />
  <fieldset class="wide rules">
    <legend>Rules of class or inspection</legend>
    <div v-for="(rule, i) in form.rules" :key="rule.kind" class="rule">
      <CheckField v-model="rule.on" :label="RULES[i]?.label ?? rule.kind" />
      <template v-if="rule.on">
        <TextField
          v-if="RULES[i]?.bore"
          v-model="rule.limit"
          label="up to, mm"
          place="surroundings.rules"
          small
        />
        <TextField v-model="rule.words" label="The rule's words" small />
      </template>
    </div>
  </fieldset>
</template>

<style scoped>
.wide {
  grid-column: 1 / -1;
}
.two {
  grid-column: span 2;
}
.rules {
  display: grid;
  gap: 4px;
  margin: 0;
  padding: 6px 0 0;
  border: 0;
  border-top: 1px solid var(--hair);
}
.rules legend {
  padding: 0 8px 0 0;
  font: 500 15px var(--narrow);
  color: var(--quiet);
}
.rule {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 120px;
  gap: 4px 14px;
  align-items: end;
}
.rule > :last-child:not(:first-child) {
  grid-column: 1 / -1;
  margin-bottom: 6px;
}
</style>
