/** Bytes as disks are sold: 10⁶ and 10⁹. @example formatBytes(12441600000) // "12.4 GB" */
export const formatBytes = (bytes: number): string => {
  if (bytes < 1e6) return `${Math.round(bytes / 1e3)} kB`;
  if (bytes < 1e9) return `${Math.round(bytes / 1e6)} MB`;
  return bytes < 1e12 ? `${Math.round(bytes / 1e8) / 10} GB` : `${Math.round(bytes / 1e11) / 10} TB`;
};

/** Seconds as hours and minutes. @example formatHours(7456) // "2 h 4 min" */
export const formatHours = (seconds: number): string => {
  const minutes = Math.floor(seconds / 60);
  return minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${minutes % 60} min`;
};
