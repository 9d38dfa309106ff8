/** A pan as it is shown, from −100 at the left to 100 at the right. @example panText(-30) // "L 30" */
export const panText = (pan: number): string => (pan === 0 ? "centre" : `${pan < 0 ? "L" : "R"} ${Math.abs(pan)}`);
