import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';

/** Seen from above: bike, camera, light. */
const FromAbove = () => (
  <svg
    viewBox="0 0 220 130"
    role="img"
    aria-label="From above: the camera square to the bike, light behind it"
  >
    <g fill="none" stroke="currentColor" strokeWidth="1.4">
      <path d="M40 26 H180 M52 26 H84 M136 26 H168" strokeWidth="4" />
      <path d="M110 20 V32 M98 26 H122" strokeWidth="1" />
      <path d="M110 34 V104" strokeDasharray="4 3" strokeWidth="0.9" />
      <path d="M104 34 H110 V40" strokeWidth="0.9" />
      <rect x="101" y="104" width="18" height="12" />
      <path d="M106 104 L108 99 H112 L114 104" />
      <path d="M62 112 L70 98 L78 112 Z M142 112 L150 98 L158 112 Z" />
    </g>
    <g fill="currentColor" fontSize="9">
      <text x="116" y="72">
        3 m or more
      </text>
      <text x="40" y="126">
        light
      </text>
      <text x="160" y="126">
        light
      </text>
      <text x="96" y="127">
        camera
      </text>
    </g>
  </svg>
);

/** Seen from the camera: level bike, lens height. */
const FromCamera = () => (
  <svg
    viewBox="0 0 220 130"
    role="img"
    aria-label="From the camera: the bike level, the lens at frame height"
  >
    <g fill="none" stroke="currentColor" strokeWidth="1.2">
      <circle cx="62" cy="88" r="26" />
      <circle cx="158" cy="88" r="26" />
      <path d="M62 88 L104 92 L92 50 L62 88 M104 92 L142 54 L92 52 M158 88 L140 48" strokeWidth="1.6" />
      <path d="M80 46 H100 M136 46 L150 42" strokeWidth="2" />
      <path d="M20 88 H206" strokeDasharray="4 3" strokeWidth="0.8" />
      <path d="M20 115 H206" strokeWidth="0.8" />
      <path d="M8 70 H16 M12 66 V74" />
    </g>
    <g fill="currentColor" fontSize="9">
      <text x="166" y="84">
        axles level
      </text>
      <text x="4" y="62">
        lens
      </text>
    </g>
  </svg>
);

/** The places of the stickers on a seated rider. */
const Stickers = () => (
  <svg
    viewBox="0 0 220 130"
    role="img"
    aria-label="Stickers: shoulder, elbow, wrist, hip, knee, ankle, heel and toe"
  >
    <g fill="none" stroke="currentColor" strokeLinejoin="round" strokeLinecap="round" opacity="0.18">
      <path d="M84 44 L126 25" strokeWidth="22" />
      <path d="M128 24 L150 48 L172 60" strokeWidth="8" />
      <path d="M84 44 L122 66" strokeWidth="15" />
      <path d="M122 66 L110 102" strokeWidth="10" />
      <path d="M101 110 L125 111" strokeWidth="8" />
      <path d="M139 12 L141 12" strokeWidth="16" />
    </g>
    <g fill="currentColor">
      {[
        [84, 44],
        [128, 24],
        [150, 48],
        [172, 60],
        [122, 66],
        [110, 104],
        [101, 111],
        [124, 111],
      ].map(([x, y]) => (
        <rect
          key={`${x}${y}`}
          x={x - 2.6}
          y={y - 2.6}
          width="5.2"
          height="5.2"
          transform={`rotate(45 ${x} ${y})`}
        />
      ))}
    </g>
    <g fill="currentColor" fontSize="8.5">
      <text x="58" y="42">
        hip
      </text>
      <text x="134" y="26">
        shoulder
      </text>
      <text x="156" y="46">
        elbow
      </text>
      <text x="178" y="62">
        wrist
      </text>
      <text x="127" y="68">
        knee
      </text>
      <text x="80" y="103">
        ankle
      </text>
      <text x="74" y="118">
        heel
      </text>
      <text x="130" y="116">
        toe, by the spindle
      </text>
    </g>
  </svg>
);

const CARDS: readonly { title: string; picture: ReactNode; text: string }[] = [
  {
    title: 'Place',
    picture: <FromAbove />,
    text: 'Bike on the trainer, camera on a tripod straight across from the bottom bracket, both lights on the camera’s side. Zoom in rather than step nearer.',
  },
  {
    title: 'Level',
    picture: <FromCamera />,
    text: 'A board under the front wheel until both axles stand level. Lens between bottom bracket and top tube. 60 frames a second or more, shutter 1/500 s, focus and exposure locked.',
  },
  {
    title: 'Stickers',
    picture: <Stickers />,
    text: 'Round and dull, 15 to 25 mm, on the bone, of a colour that tights and shoes don’t have. Find the hip by swinging the leg. Leave them on until the last film.',
  },
];

const EFFORTS: readonly [string, string][] = [
  ['Warm up', 'ten minutes, until the rider has forgotten the camera'],
  ['Easy', 'twenty turns on the hoods: how the rider sits'],
  ['Working', 'the pace of a long climb: heel, hip and back show what they do under load'],
  ['Hard', 'a short push: who slides forward, who points the toe'],
  ['Other holds', 'drops or extensions, if the rider rides there'],
  ['Other side', 'turn the bike, not the camera; the same efforts'],
];

/** How to film: before the first take. */
export const SetUpGuide = () => (
  <Box component="section" aria-label="How to film" sx={{ mt: 3 }}>
    <Typography variant="h2" gutterBottom>
      How to film
    </Typography>
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: 'repeat(3, 1fr)' }, gap: 3 }}>
      {CARDS.map((c) => (
        <Box key={c.title}>
          <Box sx={{ border: 1, borderColor: 'divider', p: 1, '& svg': { width: '100%', display: 'block' } }}>
            {c.picture}
          </Box>
          <Typography variant="h3" sx={{ mt: 1 }}>
            {c.title}
          </Typography>
          <Typography variant="body2">{c.text}</Typography>
        </Box>
      ))}
    </Box>
    <Box
      component="dl"
      sx={{
        m: 0,
        mt: 2,
        display: 'grid',
        gridTemplateColumns: { xs: 'auto 1fr', md: 'auto 1fr auto 1fr' },
        columnGap: 2,
        rowGap: 0.5,
        typography: 'body2',
      }}
    >
      {EFFORTS.map(([name, text]) => (
        <Box key={name} sx={{ display: 'contents' }}>
          <Box component="dt" sx={{ fontWeight: 600 }}>
            {name}
          </Box>
          <Box component="dd" sx={{ m: 0, color: 'text.secondary' }}>
            {text}
          </Box>
        </Box>
      ))}
    </Box>
  </Box>
);
