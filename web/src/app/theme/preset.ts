import { definePreset } from '@primeuix/themes';
import Aura from '@primeuix/themes/aura';

/** The component library in the product's own colours: paper, ink, deep teal; the same roles in the dim theme. */
export const vividPreset = definePreset(Aura, {
  primitive: { borderRadius: { none: '0', xs: '2px', sm: '3px', md: '4px', lg: '5px', xl: '6px' } },
  components: {
    togglebutton: {
      colorScheme: {
        light: { root: { color: '#4a5266', hoverColor: '#1d2433', checkedColor: '#1d2433' } },
        dark: { root: { color: '#bcc3d1', hoverColor: '#f2ecdf', checkedColor: '#f2ecdf' } },
      },
    },
    message: {
      colorScheme: {
        light: { error: { background: '#f8e6e2', borderColor: '#a63d2f', color: '#7d2a1f' } },
        dark: { error: { background: '#3b2422', borderColor: '#f0a294', color: '#f7c4ba' } },
      },
    },
    button: {
      colorScheme: {
        light: {
          outlined: {
            secondary: {
              borderColor: '#1d2433',
              color: '#1d2433',
              hoverBackground: '#eee9de',
              activeBackground: '#e4ddcf',
            },
          },
          text: { secondary: { color: '#343b4d', hoverBackground: '#eee9de', activeBackground: '#e4ddcf' } },
        },
        dark: {
          root: {
            secondary: {
              background: '#2b3342',
              hoverBackground: '#3a4356',
              activeBackground: '#465066',
              borderColor: '#2b3342',
              hoverBorderColor: '#3a4356',
              activeBorderColor: '#465066',
              color: '#f2ecdf',
              hoverColor: '#f2ecdf',
              activeColor: '#f2ecdf',
            },
          },
          outlined: {
            secondary: {
              borderColor: '#bcc3d1',
              color: '#f2ecdf',
              hoverBackground: '#2b3342',
              activeBackground: '#3a4356',
            },
          },
          text: { secondary: { color: '#d9d5cb', hoverBackground: '#2b3342', activeBackground: '#3a4356' } },
        },
      },
      root: { label: { fontWeight: '600' } },
    },
  },
  semantic: {
    primary: {
      50: '#eef6f5',
      100: '#d4e8e6',
      200: '#a9d1cd',
      300: '#7db9b3',
      400: '#4a9893',
      500: '#0f5e63',
      600: '#0d5357',
      700: '#0a474b',
      800: '#083a3d',
      900: '#062d30',
      950: '#041f21',
    },
    focusRing: { width: '3px', style: 'solid', color: 'var(--focus)', offset: '2px' },
    formField: { paddingX: '0.75rem', paddingY: '0.55rem' },
    colorScheme: {
      light: {
        surface: {
          0: '#fffdf8',
          50: '#f6f3ec',
          100: '#eee9de',
          200: '#e4ddcf',
          300: '#d9d2c3',
          400: '#8b8576',
          500: '#6c685d',
          600: '#4a5266',
          700: '#343b4d',
          800: '#262d3d',
          900: '#1d2433',
          950: '#12161f',
        },
        primary: {
          color: '#0f5e63',
          contrastColor: '#ffffff',
          hoverColor: '#0a474b',
          activeColor: '#083a3d',
        },
        text: { color: '#1d2433', hoverColor: '#12161f', mutedColor: '#4a5266', hoverMutedColor: '#343b4d' },
        content: { background: '#fffdf8', borderColor: '#d9d2c3', color: '#1d2433' },
        formField: {
          background: '#fffdf8',
          borderColor: '#8b8576',
          placeholderColor: '#5d6478',
          color: '#1d2433',
          disabledBackground: '#eee9de',
        },
      },
      dark: {
        surface: {
          0: '#f2ecdf',
          50: '#d9d5cb',
          100: '#bcc3d1',
          200: '#9aa3b5',
          300: '#7d879b',
          400: '#5c667b',
          500: '#475064',
          600: '#3a4356',
          700: '#2b3342',
          800: '#232a37',
          900: '#1f2632',
          950: '#171c26',
        },
        primary: {
          color: '#5da39c',
          contrastColor: '#10141c',
          hoverColor: '#82bdb6',
          activeColor: '#9fd0c9',
        },
        text: { color: '#f2ecdf', hoverColor: '#ffffff', mutedColor: '#bcc3d1', hoverMutedColor: '#d9d5cb' },
        content: { background: '#1f2632', borderColor: '#3a4356', color: '#f2ecdf' },
        formField: {
          background: '#171c26',
          borderColor: '#7d879b',
          placeholderColor: '#aab2c2',
          color: '#f2ecdf',
        },
      },
    },
  },
});
