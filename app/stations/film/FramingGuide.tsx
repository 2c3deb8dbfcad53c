/** Lines over the camera's picture: the margin to keep free, the ground, and the height at which the lens should look. */
export const FramingGuide = () => (
  <svg
    viewBox="0 0 160 90"
    preserveAspectRatio="xMidYMid meet"
    aria-hidden
    style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
  >
    <g fill="none" stroke="#fff" strokeWidth="0.4" style={{ filter: 'drop-shadow(0 0 0.6px #000)' }}>
      <path d="M8 14 V6 H16 M144 6 H152 V14 M152 76 V84 H144 M16 84 H8 V76" strokeWidth="0.8" />
      <path d="M8 80 H152" strokeDasharray="3 2" />
      <path d="M74 50 H86 M80 44 V56" />
    </g>
    <g fill="#fff" fontSize="3.4" style={{ filter: 'drop-shadow(0 0 0.6px #000)' }}>
      <text x="10" y="78.5">
        ground, level with this line
      </text>
      <text x="88" y="51">
        bottom bracket to top tube
      </text>
      <text x="18" y="9.5">
        rider and both wheels inside
      </text>
    </g>
  </svg>
);
