import { useLocalStorage } from "@mantine/hooks";
import { HEADER_HEIGHT } from "./metrics";

export const ROW_HEIGHTS = { narrow: 24, usual: 30, wide: 40 } as const;
export type RowSetting = keyof typeof ROW_HEIGHTS | "fit";

/** Text is 12 px at least, and a row can't be lower than that with a little air. */
const LOWEST = 18;
const HIGHEST = 44;

export const useRowSetting = () => useLocalStorage<RowSetting>({ key: "wandel:row-height", defaultValue: "usual" });

/** How high rows are: one of three, or as high as lets all of them be seen. Kept in this browser. */
export const useRowHeight = (rowCount: number, roomPx: number) => {
  const [setting, setSetting] = useRowSetting();
  const fitted = Math.floor((roomPx - HEADER_HEIGHT) / (rowCount + 1));
  const height =
    setting === "fit" && roomPx
      ? Math.max(LOWEST, Math.min(HIGHEST, fitted))
      : ROW_HEIGHTS[setting === "fit" ? "usual" : setting];
  return { height, setting, setSetting };
};
