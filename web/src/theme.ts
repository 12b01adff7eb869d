/** Elvarn's preset for the controls: cast-aluminium greys, marking-out blue, hairlines, hardly any radius. */
import { definePreset } from '@primeuix/themes'
import badge from '@primeuix/themes/aura/badge'
import base from '@primeuix/themes/aura/base'
import button from '@primeuix/themes/aura/button'
import checkbox from '@primeuix/themes/aura/checkbox'
import dialog from '@primeuix/themes/aura/dialog'
import inputtext from '@primeuix/themes/aura/inputtext'
import ripple from '@primeuix/themes/aura/ripple'
import select from '@primeuix/themes/aura/select'
import virtualscroller from '@primeuix/themes/aura/virtualscroller'
import { markRaw } from 'vue'

/** The tokens of the controls that are in use; those of all others are a quarter of the first screen's script. */
const inUse = {
  ...base,
  components: { badge, button, checkbox, dialog, inputtext, ripple, select, virtualscroller },
}

/** It never changes: nothing has to watch each of its tokens. */
export const ElvarnPreset = markRaw(
  definePreset(inUse, {
    primitive: {
      borderRadius: { none: '0', xs: '1px', sm: '2px', md: '3px', lg: '3px', xl: '4px' },
      dye: {
        50: '#eef1fb',
        100: '#d8dff5',
        200: '#b6c2ec',
        300: '#8fa8ff',
        400: '#5a76d4',
        500: '#3a57b8',
        600: '#2c4aa6',
        700: '#24439b',
        800: '#1d367d',
        900: '#172b63',
        950: '#0e1b40',
      },
    },
    semantic: {
      primary: {
        50: '{dye.50}',
        100: '{dye.100}',
        200: '{dye.200}',
        300: '{dye.300}',
        400: '{dye.400}',
        500: '{dye.500}',
        600: '{dye.600}',
        700: '{dye.700}',
        800: '{dye.800}',
        900: '{dye.900}',
        950: '{dye.950}',
      },
      focusRing: { width: '2px', style: 'solid', color: '{primary.color}', offset: '1px', shadow: 'none' },
      colorScheme: {
        light: {
          primary: {
            color: '{dye.700}',
            contrastColor: '#ffffff',
            hoverColor: '{dye.800}',
            activeColor: '{dye.900}',
          },
          formField: {
            background: '#ffffff',
            borderColor: '#98a2ab',
            color: '#16202a',
            placeholderColor: '#5a6570',
          },
          text: { color: '#16202a', mutedColor: '#5a6570' },
        },
        dark: {
          primary: {
            color: '{dye.300}',
            contrastColor: '#14181c',
            hoverColor: '#a9bcff',
            activeColor: '#c2d0ff',
          },
          formField: {
            background: '#1c2228',
            borderColor: '#5c6873',
            color: '#e6e9eb',
            placeholderColor: '#9aa5ae',
          },
          text: { color: '#e6e9eb', mutedColor: '#9aa5ae' },
          overlay: {
            select: { background: '#1c2228', color: '#e6e9eb' },
            modal: { background: '#1c2228', color: '#e6e9eb' },
          },
        },
      },
    },
    components: {
      button: { root: { paddingX: '0.9rem', paddingY: '0.5rem', label: { fontWeight: '600' } } },
      inputtext: { root: { paddingX: '0.6rem', paddingY: '0.45rem' } },
      select: { root: { paddingX: '0.6rem', paddingY: '0.45rem' } },
    },
  }),
)
