/** How much one document may hold. Every act, list and file is held to these, and said so before anything is done. */
export const MOST = {
  /** Lines of a template, and as many tracks: several of the largest orchestras at once. */
  lines: 8192,
  tracks: 8192,
  folders: 2048,
  /** Buses and returns. */
  buses: 1024,
  sends: 32_768,
  /** Processors of all chains, bands of all equalisers, and side-chains. */
  processors: 16_384,
  bands: 32_768,
  sideChains: 4096,
  gangs: 1024,
  /** Processors of all chains that the studio keeps, and as many bands. */
  keptProcessors: 4096,
  /** Control faders. */
  controls: 256,
  /** Cues, what all of them carry, and passes. */
  cues: 256,
  cueLevels: 32_768,
  passes: 512,
  /** Folders inside one another. */
  depth: 64,
  /** Findings that are lived with. */
  accepted: 4096,
  /** Entries of one table of a rig or the studio. */
  parts: 512,
  /** Ports of a rig, in and out. */
  ports: 2048,
  /** Bytes of one gesture as JSON: as many as the largest document, which undoing the removal of all of it needs. */
  gestureBytes: 16 * 1024 * 1024,
} as const;
