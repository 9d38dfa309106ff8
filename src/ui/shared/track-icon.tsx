import { mdiGuitarAcoustic, mdiSaxophone, mdiTrumpet, mdiViolin } from "@mdi/js";
import {
  IconCircleDot,
  IconHome,
  IconMicrophone2,
  IconPiano,
  IconPlug,
  IconRipple,
  IconVocabulary,
  IconWaveSine,
} from "@tabler/icons-react";
import type { ComponentType } from "react";
import type { Icon } from "@/core/model/families";

interface GlyphProps {
  readonly size?: number;
  readonly stroke?: number;
  readonly color?: string;
}

/** Instruments by their outline, as a filled drawing of 24 by 24. */
const drawn = (path: string) => {
  const Drawn = ({ size = 24, color = "currentColor" }: GlyphProps) => (
    <svg width={size} height={size} viewBox="0 0 24 24" fill={color} aria-hidden="true">
      <path d={path} />
    </svg>
  );
  return Drawn;
};

const GLYPHS: Readonly<Record<Icon, ComponentType<GlyphProps>>> = {
  drum: IconCircleDot,
  shaker: IconRipple,
  bass: IconWaveSine,
  plucked: drawn(mdiGuitarAcoustic),
  bowed: drawn(mdiViolin),
  keys: IconPiano,
  brass: drawn(mdiTrumpet),
  woodwind: drawn(mdiSaxophone),
  voice: IconMicrophone2,
  speech: IconVocabulary,
  room: IconHome,
  line: IconPlug,
};

export const ICON_NAMES: Readonly<Record<Icon, string>> = {
  drum: "Drum",
  shaker: "Shaker, cymbal",
  bass: "Low string",
  plucked: "Plucked string",
  bowed: "Bowed string",
  keys: "Keys",
  brass: "Brass",
  woodwind: "Woodwind",
  voice: "Voice",
  speech: "Speech",
  room: "Room",
  line: "Line",
};

export const TrackIcon = ({ icon, color }: { readonly icon: Icon; readonly color?: string }) => {
  const Glyph = GLYPHS[icon];
  return <Glyph size={16} stroke={1.8} {...(color ? { color } : {})} />;
};
