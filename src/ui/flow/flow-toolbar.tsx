import { ActionIcon, Button, SegmentedControl, Select } from "@mantine/core";
import { IconDownload, IconMaximize, IconPlus, IconZoomIn, IconZoomOut } from "@tabler/icons-react";
import { memo } from "react";
import { FOLDED_FROM } from "@/core/layout/flow/picture";
import { LARGEST, SMALLEST } from "@/core/layout/flow/zoom";
import { isParked, tracksOf } from "@/core/model/read-template";
import { entriesOf, inOrder } from "@/core/model/table";
import type { Template } from "@/core/model/template";
import { countChannels } from "@/core/planning/edits/channel-edits";
import { keyOf } from "../acts/chords";
import { dropDown } from "../shared/combobox";
import classes from "./flow.module.css";
import type { FlowLook } from "./use-flow-look";

const ALL = "all";

const ADDS = [
  ["add", "Bus or return"],
  ["instrument", "Instrument"],
  ["family", "Family"],
] as const;

interface FlowToolbarProps {
  readonly doc: Template;
  readonly look: FlowLook;
  readonly onAlone: () => void;
  /** Whether the control faders are shown at the right. */
  readonly controls: boolean;
  readonly onControls: () => void;
  readonly onZoom: (by: 1 | -1) => void;
  /** Does an act of the screen. */
  readonly onDo: (id: string) => void;
  readonly onSave: () => void;
}

/** What of the picture is shown. */
export const FlowToolbar = memo(
  ({ doc, look, onAlone, controls, onControls, onZoom, onDo, onSave }: FlowToolbarProps) => {
    const { view, setView, ways, setWays, alone } = look;
    const held = Object.keys(doc.controls).length;
    const folders = inOrder(doc.folders).filter(({ parentId }) => parentId === null);
    const parked = entriesOf(doc.channels).filter(isParked).length;
    const toggle = (pressed: boolean) =>
      ({ variant: pressed ? "filled" : "default", "aria-pressed": pressed, size: "compact-sm", radius: "xl" }) as const;
    return (
      <div className={classes.bar} role="toolbar" aria-label="What is shown">
        {folders.length > 0 && (
          <Select
            aria-label="Folder"
            size="xs"
            w={118}
            data={[
              { value: ALL, label: "All folders" },
              ...folders.map(({ id, name }) => ({ value: id as string, label: name })),
            ]}
            value={view.within ?? ALL}
            allowDeselect={false}
            {...dropDown(180)}
            onChange={(id) => setView({ within: id === ALL || id === null ? null : (id as typeof view.within) })}
          />
        )}
        <Button {...toggle(view.outputs)} onClick={() => setView({ outputs: !view.outputs })}>
          Outputs
        </Button>
        <Button {...toggle(view.sends)} onClick={() => setView({ sends: !view.sends })}>
          Sends
        </Button>
        <Button
          {...toggle(look.levels)}
          title="Where peaks are at worst, in dBFS"
          onClick={() => look.setLevels(!look.levels)}
        >
          Levels
        </Button>
        {parked > 0 && (
          <Button {...toggle(view.parked)} onClick={() => setView({ parked: !view.parked })}>
            Parked {parked}
          </Button>
        )}
        <SegmentedControl
          size="xs"
          aria-label="Which paths are lit"
          value={ways}
          onChange={(value) => setWays(value as typeof ways)}
          data={[
            { value: "all", label: "All paths" },
            { value: "dry", label: "Dry only" },
            { value: "sent", label: "Wet only" },
          ]}
        />
        <Button {...toggle(alone !== null)} onClick={onAlone}>
          {alone ? `Alone: ${countChannels(doc, alone)}` : "Alone"}
        </Button>
        <Button {...toggle(controls)} onClick={onControls}>
          Control faders{held ? ` ${held}` : ""}
        </Button>
        {folders.length > 0 && tracksOf(doc).length > FOLDED_FROM && (
          <Button {...toggle(false)} onClick={look.foldAll}>
            {view.folded.size ? "Unfold all" : "Fold all"}
          </Button>
        )}
        {ADDS.map(([id, label]) => (
          <Button
            key={id}
            variant="default"
            size="compact-sm"
            radius="xl"
            leftSection={<IconPlus size={14} aria-hidden />}
            aria-label={`Add: ${label}`}
            onClick={() => onDo(id)}
          >
            {label}
          </Button>
        ))}
        <ActionIcon.Group>
          <ActionIcon
            variant="default"
            size={26}
            aria-label="Smaller"
            disabled={look.zoom <= SMALLEST}
            onClick={() => onZoom(-1)}
          >
            <IconZoomOut size={15} aria-hidden />
          </ActionIcon>
          <ActionIcon
            variant="default"
            size={26}
            aria-label="Larger"
            disabled={look.zoom >= LARGEST}
            onClick={() => onZoom(1)}
          >
            <IconZoomIn size={15} aria-hidden />
          </ActionIcon>
        </ActionIcon.Group>
        <Button
          variant="default"
          size="compact-sm"
          radius="xl"
          leftSection={<IconMaximize size={14} aria-hidden />}
          title={keyOf("fit")}
          onClick={() => onDo("fit")}
        >
          Fit
        </Button>
        <Button
          variant="default"
          size="compact-sm"
          radius="xl"
          leftSection={<IconDownload size={14} aria-hidden />}
          onClick={onSave}
        >
          SVG
        </Button>
      </div>
    );
  },
);
FlowToolbar.displayName = "FlowToolbar";
