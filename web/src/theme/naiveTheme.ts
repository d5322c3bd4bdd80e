import type { GlobalThemeOverrides } from 'naive-ui'
import { FONTS, type Tokens } from './tokens.ts'

/** Naive UI in our tokens. */
export const naiveTheme = (t: Tokens): GlobalThemeOverrides => ({
  common: {
    fontFamily: FONTS.text,
    fontFamilyMono: FONTS.code,
    fontSize: '13.5px',
    fontSizeMedium: '13.5px',
    borderRadius: '7px',
    primaryColor: t.ink,
    primaryColorHover: t.fjord,
    primaryColorPressed: t.ink,
    primaryColorSuppl: t.fjord,
    errorColor: t.brick,
    warningColor: t.signalText,
    successColor: t.moss,
    infoColor: t.fjord,
    textColorBase: t.ink,
    textColor1: t.ink,
    textColor2: t.ink,
    textColor3: t.softInk,
    placeholderColor: t.softInk,
    bodyColor: t.paper,
    cardColor: t.raised,
    popoverColor: t.raised,
    modalColor: t.raised,
    inputColor: t.raised,
    tableColor: t.raised,
    borderColor: t.line,
    dividerColor: t.hairline,
    hoverColor: t.wash,
  },
  Button: { textColorPrimary: t.raised, textColorHoverPrimary: t.raised, textColorPressedPrimary: t.raised, textColorFocusPrimary: t.raised, border: `1.5px solid ${t.ink}`, borderHover: `1.5px solid ${t.fjord}`, fontWeight: '600', colorDisabledPrimary: t.shade, textColorDisabledPrimary: t.softInk, opacityDisabled: '1' },
  Tooltip: { color: t.ink, textColor: t.paper },
})
