/** The drawings of hand movements that steps of a sheet name, by their key in the care book. */

export interface HowTo {
  /** What it shows, in a sentence: read out, and printed. */
  says: string;
  lines: string;
  /** Filled. */
  solid?: string;
  /** Dashed: what lies behind, or how it must not sit. */
  faint?: string;
  /** The way that a hand or the water goes. */
  way?: string;
  /** Letters at a place. */
  marks?: [number, number, string][];
}

/** Lines in a field of 220 by 120. */
export const HOW_TO: Record<string, HowTo> = {
  'end-caps': {
    says: 'Hair hides under both end caps: pull them off, clear cap, bearing and tube.',
    lines: 'M50 45h120v30h-120zM20 48h18v24h-18zM182 48h18v24h-18zM44 60h-6M176 60h6',
    solid: 'M54 42c8 8-6 28 2 36 M62 42c8 8-6 28 2 36 M154 42c8 8-6 28 2 36 M162 42c8 8-6 28 2 36',
    way: 'M32 92h-20l6-5M12 92l6 5M188 92h20l-6-5M208 92l-6 5',
  },
  'keyed-end': {
    says: 'The square end goes in first and comes out last; the round end is pressed down after it.',
    lines: 'M40 48h140v24h-140zM26 53h14v14h-14zM10 46h10v28h-10M180 60a8 8 0 1 0 16 0 8 8 0 1 0-16 0',
    solid: 'M26 53h14v14h-14z',
    way: 'M60 92h-30l7-6M30 92l7 6M188 20v22l-6-7M188 42l6-7',
    marks: [
      [40, 112, '1'],
      [200, 34, '2'],
    ],
  },
  hub: {
    says: 'A square post wants a square hole, an eight-sided one its own: turn the brush until they meet.',
    lines:
      'M70 60l-40-26M70 60l-46 12M70 60l-14 44M54 60a16 16 0 1 0 32 0 16 16 0 1 0-32 0M63 53h14v14h-14zM142 46h18v18h-18zM186 44l9 4 4 9-4 9-9 4-9-4-4-9 4-9z',
    solid: 'M142 46h18v18h-18z M186 44l9 4 4 9-4 9-9 4-9-4-4-9 4-9z',
    way: 'M88 34a32 32 0 0 1 14 22l-9-3M102 56l3-9',
  },
  caster: {
    says: 'Straight up by hand; back in with one click for each end of the axle, two in all.',
    lines:
      'M70 70a24 24 0 1 0 48 0 24 24 0 1 0-48 0M90 70h8M94 46v-20M60 94h14M114 94h14M150 64h50v26h-50zM158 64v-12M192 64v-12',
    solid: 'M88 64h12v12h-12z',
    way: 'M94 24v-18l-6 6M94 6l6 6M158 30v14l-5-5M158 44l5-5M192 30v14l-5-5M192 44l5-5',
    marks: [
      [154, 24, '1'],
      [188, 24, '2'],
    ],
  },
  'closed-end': {
    says: 'The closed end up: water and dirt run out of the open one below.',
    lines: 'M70 30c0-14 60-14 60 0v56h-60zM80 34v48M92 34v48M108 34v48M120 34v48',
    solid: 'M70 30c0-14 60-14 60 0z',
    way: 'M38 20v22M52 16v24M100 92v22l-7-7M100 114l7-7M82 92v12M118 92v12',
    faint: 'M170 86c0 14 36 14 36 0v-46h-36zM164 30l48 66M212 30l-48 66',
  },
  'under-tabs': {
    says: 'Flat and square under every tab, top and bottom: it must be seen through the vents.',
    lines:
      'M40 60a50 44 0 1 0 100 0 50 44 0 1 0-100 0M66 60a24 20 0 1 0 48 0 24 20 0 1 0-48 0M82 12h16v12h-16zM82 96h16v12h-16z',
    solid: 'M82 12h16v12h-16z M82 96h16v12h-16z',
    faint: 'M170 100c0-40 10-50 34-84',
    way: 'M190 60h-40l7-6M150 60l7 6',
  },
  layers: {
    says: 'Dome first, then the cloth with its lip over the whole rim, the paper liner inside; then the cap.',
    lines: 'M50 24h120M58 24v70h104v-70M50 24c-6 0-6 10 2 10M170 24c6 0 6 10-2 10M80 34v48h60v-48',
    solid: 'M84 100a26 14 0 0 1 52 0z',
    way: 'M196 96v-60l-6 8M196 36l6 8',
    marks: [
      [104, 112, '1'],
      [64, 88, '2'],
      [104, 62, '3'],
    ],
  },
  'bag-rails': {
    says: 'Down its rails until it clicks top and bottom; the handle opens last.',
    lines: 'M60 14v92M150 14v92M66 26h78v70h-78zM92 40h26v16h-26zM54 20h12M144 20h12M54 100h12M144 100h12',
    solid: 'M92 40h26v16h-26z',
    way: 'M180 20v60l-7-8M180 80l7-8M105 62v16l-5-5M105 78l5-5',
    marks: [
      [176, 14, '1'],
      [126, 74, '2'],
    ],
  },
  tray: {
    says: 'Lightly upward, never straight out; back in with its rear hose at its port and the float to the back.',
    lines: 'M30 70h130v24h-130zM160 76h22M182 68v20M44 70v-14h14v14M70 78h60M70 84h60',
    solid: 'M44 56h14v14h-14z',
    way: 'M90 60l14-30-10 4M104 30l4 10',
    faint: 'M30 108h-20l6-5M10 108l6 5',
    marks: [
      [38, 48, 'float'],
      [150, 60, 'hose'],
    ],
  },
  belt: {
    says: 'Writing outward: hook the spindle first, then round the roller; turned by hand it stays in the middle.',
    lines: 'M36 50a12 12 0 1 0 .1 0M36 50h110M36 74h110M146 34h22v56h-22zM168 46h34M168 78h34',
    solid: 'M36 56a6 6 0 1 0 .1 0z',
    way: 'M186 20a18 18 0 0 1 18 14l-8-1M204 34l4-8',
    marks: [
      [30, 42, '1'],
      [152, 28, '2'],
      [76, 67, 'text'],
    ],
  },
  'guard-edge': {
    says: 'In on one side and not on the other looks closed: the edge must be flush all along.',
    lines: 'M20 40h80v24h-80zM20 52h80M120 40h80v24h-80zM22 82l6 8 12-16M132 78l16 16M148 78l-16 16',
    solid: 'M120 52l80-10v10z',
    way: 'M32 20v14l-5-5M32 34l5-5M88 20v14l-5-5M88 34l5-5',
  },
  'prise-cowl': {
    says: 'Plastic tool in the gap where the cowl is thick, pushed outward; never inward at its thin face.',
    lines: 'M60 20c40-10 80 10 84 44c2 24-8 34-14 40h-60zM60 20v84M150 60l40-30',
    solid: 'M60 20h12v84h-12z',
    way: 'M56 96l-34 14 10 2M22 110l6-8M58 90l-10-10',
    faint: 'M190 80h-38l7-6M152 80l7 6M176 66l24 28M200 66l-24 28',
  },
  'two-sizes': {
    says: 'Two sizes of screws: draw the module on paper and lay each where it came from.',
    lines:
      'M30 16h110v88h-110zM44 28a5 5 0 1 0 .1 0M126 28a5 5 0 1 0 .1 0M44 84a5 5 0 1 0 .1 0M126 84a5 5 0 1 0 .1 0M85 22a3 3 0 1 0 .1 0M85 92a3 3 0 1 0 .1 0M170 30v30M164 30h12M196 30v18M191 30h10',
    faint: 'M60 44h50v34h-50z',
    marks: [
      [160, 78, 'long'],
      [188, 66, 'short'],
    ],
  },
};
