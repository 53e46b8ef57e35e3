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
    formField: {
      paddingX: '0.5rem',
      paddingY: '0.2rem',
      sm: { fontSize: '0.923rem', paddingX: '0.5rem', paddingY: '0.15rem' },
    },
    colorScheme: {
      dark: {
        surface: greys,
        primary: { color: accent, contrastColor: ink, hoverColor: '#e2e77f', activeColor: '#b9bf45' },
        text: { color: greys[100], mutedColor: greys[300] },
      },
    },
  },
  components: {
    button: {
      root: {
        paddingX: '0.65rem',
        paddingY: '0.2rem',
        gap: '0.4rem',
        iconOnlyWidth: '1.9rem',
        label: { fontWeight: '500' },
      },
      colorScheme: {
        dark: {
          root: {
            secondary: {
              background: greys[800],
              borderColor: greys[700],
              color: greys[100],
              hoverBorderColor: greys[500],
              hoverColor: greys[0],
            },
          },
          outlined: {
            secondary: {
              borderColor: greys[600],
              color: greys[100],
              hoverBackground: greys[800],
              activeBackground: greys[700],
            },
          },
          text: { secondary: { color: greys[200], hoverBackground: greys[800], activeBackground: greys[700] } },
        },
      },
    },
    togglebutton: {
      root: { padding: '0.1rem 0.15rem', borderRadius: '3px' },
      content: { padding: '0.1rem 0.5rem', borderRadius: '2px' },
      colorScheme: {
        dark: {
          root: {
            background: greys[900],
            borderColor: greys[700],
            color: greys[200],
            checkedBackground: greys[900],
            checkedBorderColor: greys[600],
            checkedColor: greys[0],
          },
          content: { checkedBackground: greys[700] },
        },
      },
    },
    tabs: {
      tablist: { background: greys[900], borderColor: greys[700] },
      tab: {
        padding: '0.4rem 0.65rem',
        background: greys[900],
        color: greys[400],
        hoverColor: greys[100],
        activeColor: greys[100],
        borderWidth: '0 0 1px 0',
      },
      tabpanel: { background: greys[900], padding: '0' },
      activeBar: { height: '2px' },
    },
    datatable: {
      headerCell: {
        background: greys[900],
        color: greys[400],
        padding: '0.35rem 0.75rem',
        hoverBackground: greys[800],
        selectedBackground: greys[900],
        selectedColor: greys[100],
      },
      bodyCell: { padding: '0.35rem 0.75rem', sm: { padding: '0.2rem 0.5rem' } },
      row: {
        background: greys[900],
        selectedBackground: greys[800],
        selectedColor: greys[0],
        hoverBackground: greys[800],
      },
      sortIcon: { size: '0.7rem' },
    },
    treetable: {
      headerCell: { background: greys[900], color: greys[400], padding: '0.35rem 0.75rem' },
      bodyCell: { padding: '0.15rem 0.75rem', gap: '0.25rem' },
      row: {
        background: greys[900],
        selectedBackground: greys[800],
        selectedColor: greys[0],
        hoverBackground: greys[800],
      },
      nodeToggleButton: { size: '1.4rem' },
    },
    listbox: {
      root: { background: greys[900], borderColor: greys[900] },
      list: { padding: '0', gap: '0' },
      option: {
        padding: '0.25rem 0.9rem',
        borderRadius: '0',
        focusBackground: greys[800],
        selectedBackground: greys[800],
        selectedFocusBackground: greys[800],
        selectedColor: greys[0],
        selectedFocusColor: greys[0],
      },
      optionGroup: { background: greys[900], color: greys[400], fontWeight: '400', padding: '0.4rem 0.9rem 0.15rem' },
    },
    accordion: {
      panel: { borderColor: greys[700] },
      header: {
        padding: '0.35rem 0.9rem',
        background: greys[900],
        hoverBackground: greys[800],
        activeBackground: greys[900],
        activeHoverBackground: greys[800],
        color: greys[400],
        hoverColor: greys[100],
        activeColor: greys[200],
        activeHoverColor: greys[100],
        fontWeight: '400',
      },
      content: { padding: '0', background: greys[900] },
    },
    progressbar: { root: { height: '4px', background: greys[600], borderRadius: '2px' } },
    dialog: {
      header: { padding: '0.9rem 1.1rem 0.6rem' },
      content: { padding: '0 1.1rem 1.1rem' },
      title: { fontSize: '1.15rem' },
    },
    message: {
      content: { padding: '0.4rem 0.7rem' },
      text: { fontSize: '1rem', fontWeight: '400' },
      colorScheme: {
        dark: {
          error: { background: '#2b1d1b', borderColor: '#5a302b', color: '#ff9b8a', shadow: 'none' },
          warn: { background: '#2a2516', borderColor: '#57491f', color: '#f0cf7a', shadow: 'none' },
          secondary: { background: greys[800], borderColor: greys[700], color: greys[100], shadow: 'none' },
        },
      },
    },
    splitter: { gutter: { background: greys[950] }, handle: { size: '28px' } },
  },
});
