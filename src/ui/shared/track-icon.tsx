import {
  IconCircleDot,
  IconGuitarPick,
  IconHome,
  IconMicrophone2,
  IconMusic,
  IconPiano,
  IconPlug,
  IconRipple,
  IconSpeakerphone,
  IconVocabulary,
  IconWaveSine,
  IconWind,
} from "@tabler/icons-react";
import type { ComponentType } from "react";
import type { Icon } from "@/core/model/families";

const GLYPHS: Readonly<Record<Icon, ComponentType<{ size?: number; stroke?: number; color?: string }>>> = {
  drum: IconCircleDot,
  shaker: IconRipple,
  bass: IconWaveSine,
  plucked: IconGuitarPick,
  bowed: IconMusic,
  keys: IconPiano,
  brass: IconSpeakerphone,
  woodwind: IconWind,
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
