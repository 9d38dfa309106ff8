import { isDatabaseAway, withoutValues } from "./server/db/away";
import { MOST_COMMAND_BYTES, takeCommands, tooLarge } from "./server/http/take-commands";
import { closeStreams } from "./server/services/changes";
import { closePools } from "./server/services/pool";
import { prepareData } from "./server/services/prepare";

/** So often a database that is still starting is waited for before the first answer. */
const TRIES = 8;
const PAUSE_MS = 500;

const whenReachable = async (act: () => Promise<void>, tries: number): Promise<void> => {
  for (let left = tries; ; left--) {
    try {
      return await act();
    } catch (error) {
      if (left <= 0 || !isDatabaseAway(error)) throw error;
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    }
  }
};

/** What others write down of an error (the framework does of those on pages) is kept free of documents as well. */
const keepLogsPlain = (): void => {
  const write = console.error.bind(console);
  console.error = (...words) => write(...words.map(withoutValues));
};

const prepare = (): Promise<void> => prepareData(process.env.WANDEL_DEMO === "1");

/**
 * Waits for a database that is still starting. One that stays away keeps nobody from being told so: it is prepared when
 * it comes.
 */
export const boot = async (): Promise<void> => {
  keepLogsPlain();
  (globalThis as { wandelCommands?: object }).wandelCommands = {
    take: takeCommands,
    most: MOST_COMMAND_BYTES,
    tooLarge,
  };
  (globalThis as { wandelClose?: () => void }).wandelClose = () => {
    closeStreams();
    void closePools();
  };
  try {
    await whenReachable(prepare, TRIES);
  } catch (error) {
    if (!isDatabaseAway(error)) throw error;
    console.error("The database can't be reached. Wandel goes on asking for it, and is there as soon as it is.");
    void whenReachable(prepare, Number.POSITIVE_INFINITY).catch((late) => console.error(late));
  }
};

/** A page that could not be drawn because the database was away: the door tells it by this, and answers 503. */
export const noteAway = (error: unknown): void => {
  if (isDatabaseAway(error)) (globalThis as { wandelAwayAt?: number }).wandelAwayAt = Date.now();
};
