export const MICROPHONE_KINDS = [
  "moving-coil",
  "ribbon-passive",
  "ribbon-active",
  "condenser",
  "condenser-supplied",
  "di-passive",
  "di-active",
  "line-source",
] as const;
export type MicrophoneKind = (typeof MICROPHONE_KINDS)[number];

export const MICROPHONE_KIND_NAMES: Readonly<Record<MicrophoneKind, string>> = {
  "moving-coil": "moving coil",
  "ribbon-passive": "passive ribbon",
  "ribbon-active": "active ribbon",
  condenser: "condenser",
  "condenser-supplied": "condenser with its own supply",
  "di-passive": "passive DI box",
  "di-active": "active DI box",
  "line-source": "line source",
};

export const PHANTOM_ATTITUDES = ["needs", "tolerates", "endangered"] as const;
export type PhantomAttitude = (typeof PHANTOM_ATTITUDES)[number];

export const LEVELS = ["microphone", "line", "instrument"] as const;
export type Level = (typeof LEVELS)[number];

export const PHANTOM_ATTITUDE_NAMES: Readonly<Record<PhantomAttitude, string>> = {
  needs: "needs 48 V",
  tolerates: "tolerates it",
  endangered: "endangered by it",
};

/**
 * What 48 V does to each kind of microphone or box. Active ones need it but for those with a supply of their own, a
 * passive ribbon can be ruined by it.
 */
export const phantomAttitude = (kind: MicrophoneKind): PhantomAttitude => {
  switch (kind) {
    case "condenser":
    case "ribbon-active":
    case "di-active":
      return "needs";
    case "ribbon-passive":
      return "endangered";
    case "condenser-supplied":
    case "moving-coil":
    case "di-passive":
    case "line-source":
      return "tolerates";
    default:
      return kind satisfies never;
  }
};

/** The level at which a microphone or box arrives at the socket. A DI box turns an instrument into microphone level. */
export const levelOf = (kind: MicrophoneKind): Level => (kind === "line-source" ? "line" : "microphone");
