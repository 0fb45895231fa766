import type { ThemeConfig } from 'antd';

export const PAPER = '#f5f2ea';
export const PANEL = '#fbfaf5';
export const INK = '#15293b';
export const GLASS = '#1f7a70';
export const QUIET = '#4d5c68';
export const HAIRLINE = '#d9d4c6';

/** The whole look of Ant Design's components, through their tokens. */
export const theme: ThemeConfig = {
  token: {
    colorPrimary: GLASS,
    colorInfo: GLASS,
    colorError: '#b83a26',
    colorWarning: '#8a5f16',
    colorSuccess: GLASS,
    colorText: INK,
    colorTextSecondary: QUIET,
    colorTextPlaceholder: '#66737d',
    colorBgBase: PANEL,
    colorBgContainer: '#fff',
    colorBgLayout: PAPER,
    colorBgElevated: PANEL,
    colorBorder: HAIRLINE,
    colorBorderSecondary: HAIRLINE,
    borderRadius: 3,
    borderRadiusLG: 3,
    borderRadiusSM: 2,
    controlHeight: 28,
    controlHeightSM: 24,
    fontFamily: "'Hanken Grotesk', sans-serif",
    fontFamilyCode: "'JetBrains Mono', monospace",
    fontSize: 13,
    // The only things that move are those being designed.
    motion: false,
    boxShadowSecondary: '0 2px 10px rgb(21 41 59 / 0.16)',
  },
  components: {
    Button: {
      primaryShadow: 'none',
      defaultShadow: 'none',
      fontWeight: 600,
      colorPrimary: INK,
      textTextColor: QUIET,
      textTextHoverColor: INK,
      textTextActiveColor: INK,
      textHoverBg: 'transparent',
      algorithm: true,
    },
    Segmented: { trackBg: '#ece8dc', itemSelectedBg: GLASS, itemSelectedColor: '#fff', trackPadding: 0 },
  },
};
