import type { ThemeConfig } from 'antd';
import { COLOURS } from '../shared/drawing/colours';

const { paper, panel, white, ink, quiet, faint, glass, hairline, groove } = COLOURS;

/** The whole look of Ant Design's components, through their tokens. */
export const theme: ThemeConfig = {
  token: {
    colorPrimary: glass,
    colorInfo: glass,
    colorError: COLOURS['coral-text'],
    colorWarning: COLOURS['brass-text'],
    colorSuccess: glass,
    colorText: ink,
    colorTextSecondary: quiet,
    colorTextPlaceholder: faint,
    colorBgBase: panel,
    colorBgContainer: white,
    colorBgLayout: paper,
    colorBgElevated: panel,
    colorBorder: hairline,
    colorBorderSecondary: hairline,
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
      colorPrimary: ink,
      textTextColor: quiet,
      textTextHoverColor: ink,
      textTextActiveColor: ink,
      textHoverBg: 'transparent',
      defaultBg: white,
      algorithm: true,
    },
    Slider: {
      railSize: 12,
      handleSize: 8,
      handleSizeHover: 8,
      handleLineWidth: 2,
      handleLineWidthHover: 2,
      handleColor: ink,
      handleActiveColor: ink,
    },
    Segmented: { trackBg: groove, itemSelectedBg: glass, itemSelectedColor: white, trackPadding: 0 },
  },
};
