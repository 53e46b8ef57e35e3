/** Our own preset: neutral greys around a picture, one accent for what can be acted on now, small and square. */
import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

const accent = '#d6dc5c';
const ink = '#1a1b06';
const greys = {
  0: '#ffffff',
  50: '#f2f2f2',
  100: '#e9e9e9',
  200: '#d0d0d0',
  300: '#b4b4b4',
  400: '#9a9a9a',
  500: '#7a7a7a',
  600: '#4a4a4a',
  700: '#353535',
  800: '#272727',
  900: '#1d1d1d',
  950: '#141414',
};

export const preset = definePreset(Aura, {
  primitive: { borderRadius: { none: '0', xs: '2px', sm: '2px', md: '3px', lg: '3px', xl: '4px' } },
  semantic: {
    primary: {
      50: '#fbfce9', 100: '#f5f7cd', 200: '#ecf0a4', 300: '#e2e77f', 400: accent, 500: accent,
      600: '#b9bf45', 700: '#8c9132', 800: '#5f6222', 900: '#3a3c15', 950: ink,
    }, // prettier-ignore
    focusRing: { width: '2px', style: 'solid', color: accent, offset: '1px' },
    formField: { paddingX: '0.5rem', paddingY: '0.2rem' },
    colorScheme: {
      dark: {
        surface: greys,
        primary: { color: accent, contrastColor: ink, hoverColor: '#e2e77f', activeColor: '#b9bf45' },
        text: { color: greys[100], mutedColor: greys[300] },
      },
    },
  },
  components: {
    button: { root: { paddingX: '0.7rem', paddingY: '0.25rem', label: { fontWeight: '500' } } },
    message: {
      colorScheme: {
        dark: {
          error: { background: '#2b1d1b', borderColor: '#5a302b', color: '#ff9b8a', shadow: 'none' },
          warn: { background: '#2a2516', borderColor: '#57491f', color: '#f0cf7a', shadow: 'none' },
        },
      },
    },
    splitter: { gutter: { background: greys[950] }, handle: { size: '28px' } },
  },
});
