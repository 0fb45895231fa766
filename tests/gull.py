"""A gull as others draw: gradients that lean, a stroke along one, a mask, a symbol; and a shadow that is not read."""

GULL = """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 160 160">
  <defs>
    <radialGradient id="head" cx=".4" cy=".35" r=".65" fx=".3" fy=".25" gradientTransform="rotate(18 .5 .5)">
      <stop stop-color="#ffffff"/><stop offset=".7" stop-color="#e6ede8"/><stop offset="1" stop-color="#b7c6c0"/>
    </radialGradient>
    <radialGradient id="cheek" gradientTransform="translate(.5 .5) rotate(-30) scale(1 .6) translate(-.5 -.5)">
      <stop stop-color="#e88a6f"/><stop offset="1" stop-color="#e88a6f" stop-opacity="0"/>
    </radialGradient>
    <linearGradient id="beak" x2="1" y2="1"><stop stop-color="#f0c25a"/><stop offset="1" stop-color="#b9832b"/></linearGradient>
    <linearGradient id="rope"><stop stop-color="#1f7a70"/><stop offset="1" stop-color="#15293b"/></linearGradient>
    <mask id="cap"><path fill="#fff" d="M0 0h160v62H0z"/><circle cx="80" cy="92" r="34"/></mask>
    <symbol id="eye" viewBox="0 0 20 24"><ellipse cx="10" cy="12" rx="8" ry="11" fill="#15293b"/>
      <circle cx="7" cy="7" r="3" fill="#fff"/></symbol>
    <filter id="shade"><feDropShadow dy="4" stdDeviation="3" flood-opacity=".3"/></filter>
  </defs>
  <g id="face" filter="url(#shade)">
    <circle cx="80" cy="84" r="56" fill="url(#head)"/>
    <circle id="hat" cx="80" cy="84" r="56" fill="#1f7a70" mask="url(#cap)"/>
  </g>
  <ellipse cx="44" cy="98" rx="16" ry="12" fill="url(#cheek)"/><ellipse cx="116" cy="98" rx="16" ry="12" fill="url(#cheek)"/>
  <g id="eyes"><use href="#eye" x="50" y="68" width="20" height="24"/><use href="#eye" x="90" y="68" width="20" height="24"/></g>
  <path id="beak-shape" d="M64 96q16-8 32 0l-16 22z" fill="url(#beak)"/>
  <path d="M30 128q50 26 100 0" fill="none" stroke="url(#rope)" stroke-width="7" stroke-linecap="round"/>
</svg>"""  # noqa: E501 (a drawing)
