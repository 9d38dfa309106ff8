/** So long a panel may take to show what is selected now. */
const LONGEST_MS = 1500;

/** Gives the keys to something as soon as it is there and can take them: a panel follows what is selected a little later. */
export const focusSoon = (selector: string): void => {
  const until = performance.now() + LONGEST_MS;
  const look = (): void => {
    const field = document.querySelector<HTMLElement>(selector);
    if (field && field.closest("[inert], [aria-busy=true]") === null) field.focus();
    if (document.activeElement !== field && performance.now() < until) setTimeout(look, 30);
  };
  look();
};
