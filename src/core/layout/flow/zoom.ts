import type { Rig } from "../../model/rig";
import type { Template } from "../../model/template";
import { layoutFlow } from "./flow";
import type { FlowView } from "./picture";

/** How small and how large a picture can be made. */
export const SMALLEST = 0.15;
export const LARGEST = 2;
export const ZOOM_STEP = 1.25;

/** A picture laid for a window at a zoom: smaller, and there is room for more of it. */
export const zoomedView = (view: FlowView, zoom: number): FlowView => ({
  ...view,
  width: view.width / zoom,
  height: view.height / zoom,
});

export const stepZoom = (zoom: number, by: 1 | -1): number =>
  Math.min(LARGEST, Math.max(SMALLEST, Math.round(100 * zoom * (by > 0 ? ZOOM_STEP : 1 / ZOOM_STEP)) / 100));

/**
 * The largest zoom, no more than 1, at which all of a picture is seen in its window; the smallest where none is enough.
 * In steps of a hundredth, by halving: at most seven pictures are laid.
 */
export const fittingZoom = (doc: Template, rig: Rig, view: FlowView): number => {
  const fits = (hundredths: number): boolean => {
    const zoom = hundredths / 100;
    const flow = layoutFlow(doc, rig, zoomedView(view, zoom));
    return flow.height * zoom <= view.height + 1 && flow.width * zoom <= view.width + 1;
  };
  if (fits(100)) return 1;
  let [low, high] = [Math.round(SMALLEST * 100), 100];
  while (high - low > 1) {
    const at = Math.floor((low + high) / 2);
    if (fits(at)) low = at;
    else high = at;
  }
  return low / 100;
};
