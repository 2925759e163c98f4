import base from '@primeuix/themes/aura/base'
import button from '@primeuix/themes/aura/button'
import checkbox from '@primeuix/themes/aura/checkbox'
import dialog from '@primeuix/themes/aura/dialog'
import inputtext from '@primeuix/themes/aura/inputtext'
import message from '@primeuix/themes/aura/message'
import progressbar from '@primeuix/themes/aura/progressbar'
import select from '@primeuix/themes/aura/select'
import skeleton from '@primeuix/themes/aura/skeleton'
import textarea from '@primeuix/themes/aura/textarea'
import { definePreset } from '@primeuix/themes'

const water = {
  50: '#eef7f6', 100: '#d5ebe9', 200: '#aed7d5', 300: '#7dbcbb', 400: '#4a9a9c', 500: '#277b80',
  600: '#0f666d', 700: '#0b545b', 800: '#0a4249', 900: '#08343a', 950: '#041f24'
}
const sand = {
  0: '#ffffff', 50: '#faf8f4', 100: '#f3efe7', 200: '#e6dfd2', 300: '#cfc6b6', 400: '#9d9789',
  500: '#6f6d66', 600: '#565854', 700: '#3f4546', 800: '#2a3134', 900: '#1a2226', 950: '#10171a'
}
const slate = {
  0: '#ffffff', 50: '#eef3f4', 100: '#dbe4e6', 200: '#b9c7ca', 300: '#98abb0', 400: '#7f9499',
  500: '#5e7379', 600: '#42565c', 700: '#2c4047', 800: '#1c2e34', 900: '#132126', 950: '#0c171b'
}

/** The one warm colour: for what needs a person now, and for what is not lightly done. The same as --signal. */
const SIGNAL = { light: '#a83c0a', dark: '#ffa06b' }

/** Ebb's looks: deep water, sand and slate; the corners are cut close, the rows stand near. */
export const tidal = definePreset(
  { ...base, components: { button, checkbox, dialog, inputtext, message, progressbar, select, skeleton, textarea } },
  {
    primitive: {
      borderRadius: { none: '0', xs: '1px', sm: '2px', md: '3px', lg: '4px', xl: '6px' }
    },
    semantic: {
      primary: water,
      formField: { paddingX: '0.6rem', paddingY: '0.4rem', borderRadius: '{border.radius.md}' },
      focusRing: { width: '2px', style: 'solid', color: '{primary.600}', offset: '2px' },
      colorScheme: {
        light: {
          surface: sand,
          primary: { color: '{primary.700}', contrastColor: '#ffffff', hoverColor: '{primary.800}', activeColor: '{primary.900}' },
          text: { color: '{surface.900}', hoverColor: '{surface.950}', mutedColor: '{surface.600}', hoverMutedColor: '{surface.700}' },
          formField: { borderColor: '{surface.500}', placeholderColor: '{surface.600}' }
        },
        dark: {
          surface: slate,
          primary: { color: '{primary.300}', contrastColor: '{surface.950}', hoverColor: '{primary.200}', activeColor: '{primary.100}' },
          text: { color: '{surface.50}', hoverColor: '{surface.0}', mutedColor: '{surface.200}', hoverMutedColor: '{surface.100}' },
          formField: { background: '{surface.900}', borderColor: '{surface.400}', placeholderColor: '{surface.300}' }
        }
      }
    },
    components: {
      button: {
        root: { paddingX: '0.8rem', paddingY: '0.4rem', label: { fontWeight: '600' } },
        colorScheme: {
          light: { root: { warn: { background: SIGNAL.light, hoverBackground: '#8b3007', activeBackground: '#702505', borderColor: SIGNAL.light, hoverBorderColor: '#8b3007', activeBorderColor: '#702505', color: '#ffffff', hoverColor: '#ffffff', activeColor: '#ffffff', focusRing: { color: SIGNAL.light, shadow: 'none' } } } },
          dark: { root: { warn: { background: SIGNAL.dark, hoverBackground: '#ffb68d', activeBackground: '#ffcaad', borderColor: SIGNAL.dark, hoverBorderColor: '#ffb68d', activeBorderColor: '#ffcaad', color: '#241003', hoverColor: '#241003', activeColor: '#241003', focusRing: { color: SIGNAL.dark, shadow: 'none' } } } }
        }
      },
      progressbar: { root: { height: '0.5rem' }, label: { fontSize: '0' } }
    }
  }
)
