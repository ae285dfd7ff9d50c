/** Pictures of what is done, where the icon set has none that says it. The frame is the canvas. */
const Glyph = ({ size = 16, children }: { size?: number; children: React.ReactNode }) => (
  <svg
    width={size}
    height={size}
    viewBox="0 0 18 18"
    fill="none"
    stroke="currentColor"
    strokeWidth="1.4"
    strokeLinejoin="round"
    aria-hidden
  >
    {children}
  </svg>
)
export const FitGlyph = () => (
  <Glyph>
    <rect x="1.5" y="1.5" width="15" height="15" rx="1.5" strokeDasharray="2 2" />
    <rect x="1.5" y="5.5" width="15" height="7" fill="currentColor" fillOpacity="0.3" />
  </Glyph>
)
export const CoverGlyph = () => (
  <Glyph>
    <rect x="5" y="4" width="8" height="10" rx="1" strokeDasharray="2 2" />
    <rect x="1" y="4" width="16" height="10" fill="currentColor" fillOpacity="0.3" />
  </Glyph>
)
export const OwnSizeGlyph = () => (
  <Glyph>
    <rect x="1.5" y="1.5" width="15" height="15" rx="1.5" strokeDasharray="2 2" />
    <path d="M5 6.5l1.5-1v7M13 12.5v-7l-1.5 1M9 7.5v.2M9 10.7v.2" />
  </Glyph>
)
export const GradientGlyph = ({ size, className }: { size?: number; className?: string }) => (
  <span className={className}>
    <Glyph size={size}>
      <rect x="1.5" y="3" width="15" height="12" rx="1.5" />
      <path d="M4.5 3.2v11.6M7.3 3.2v11.6" strokeWidth="2.2" />
      <path d="M10 3.2v11.6" strokeWidth="1.4" />
      <path d="M12.5 3.2v11.6" strokeWidth="0.7" />
    </Glyph>
  </span>
)
/** Left becomes right: two halves on either side of an upright line. */
export const MirrorSidewaysGlyph = () => (
  <Glyph>
    <path d="M9 1.5v15" strokeDasharray="2 2" />
    <path d="M6.5 4v10l-5-5z" fill="currentColor" fillOpacity="0.3" />
    <path d="M11.5 4v10l5-5z" />
  </Glyph>
)
/** Top becomes bottom. */
export const MirrorUpsideDownGlyph = () => (
  <Glyph>
    <path d="M1.5 9h15" strokeDasharray="2 2" />
    <path d="M4 6.5h10l-5-5z" fill="currentColor" fillOpacity="0.3" />
    <path d="M4 11.5h10l-5 5z" />
  </Glyph>
)
