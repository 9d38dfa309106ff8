"use client";

import { Button } from "@mantine/core";
import { modals } from "@mantine/modals";
import type { SpotlightActionData } from "@mantine/spotlight";
import { IconAlertTriangle } from "@tabler/icons-react";
import { useMemo, useState } from "react";
import { rigFindings } from "@/core/checks/rig-findings";
import { linesOnDevice, rackView } from "@/core/layout/rack";
import type { DeviceId } from "@/core/model/ids";
import type { RigEdit } from "@/core/planning/edits/rig-editing";
import { addBare, addBlueprint } from "@/core/planning/rig-plans";
import { counted } from "@/core/units/counted";
import type { Act } from "../acts/act-model";
import { keyOf } from "../acts/chords";
import { inPalette, undoing } from "../frame/in-palette";
import { usePageActs } from "../frame/page-acts";
import { Palette } from "../frame/palette";
import { PartsFrame } from "../frame/parts-frame";
import { TABLE_KEYS } from "../parts/part-table";
import { useGo } from "../shared/going";
import { openModal } from "../shared/open-modal";
import { PageLink } from "../shared/page-link";
import { useSteady } from "../shared/steady";
import { useUndoing } from "../state/doc-context";
import { AddDevice } from "./add-device-dialog";
import { DevicePanel, RETIRE } from "./device-panel";
import { Rack } from "./rack";
import classes from "./rig.module.css";
import { NOT_LOOKED, useRigAct, useRigDocument, useTouches } from "./rig-context";
import { WholePanel } from "./whole-panel";

const useRigActs = (onAdded: (id: string) => void) => {
  const rig = useRigDocument();
  const act = useRigAct();
  const add = ({ edits, deviceId }: { readonly edits: readonly RigEdit[]; readonly deviceId: string }) => {
    if (act(edits)) onAdded(deviceId);
  };
  const askAdd = () =>
    openModal({
      title: "Add a device",
      children: (
        <AddDevice
          onBlueprint={(blueprint) => add(addBlueprint(rig, blueprint))}
          onBare={(device) => add(addBare(rig, device))}
        />
      ),
    });
  const askStrip = () =>
    modals.openConfirmModal({
      title: "Empty the rig to its bare devices",
      children:
        "Wires, names of ports, listening places, sends and returns, plugged sockets, shelf and processors go. The devices stay as they are built. It can be undone.",
      labels: { confirm: "Empty the rig", cancel: "Leave it" },
      onConfirm: () => act([{ kind: "rig.strip" }]),
    });
  return { askAdd, askStrip };
};

/** What is wrong with the rig, with what puts it right. */
const Findings = () => {
  const rig = useRigDocument();
  const act = useRigAct();
  const findings = useMemo(() => rigFindings(rig), [rig]);
  if (!findings.length) return null;
  return (
    <ul className={classes.findings} aria-label="Findings of the rig">
      {findings.map((finding) => (
        <li key={finding.id} data-severity={finding.severity}>
          <IconAlertTriangle size={16} stroke={1.9} aria-hidden />
          <span>
            <span className="visually-hidden">{finding.severity === "problem" ? "Problem: " : "Hint: "}</span>
            {finding.message}
          </span>
          {finding.fixes.map((fix) => (
            <Button key={fix.label} variant="default" size="compact-sm" onClick={() => act(fix.edits, fix.label)}>
              {fix.label}
            </Button>
          ))}
        </li>
      ))}
    </ul>
  );
};

/** Which templates a change touches: those with lines on the device, or on the rig. */
const Touches = ({ chosen }: { readonly chosen: string | null }) => {
  const rig = useRigDocument();
  const looked = useTouches(rig.id);
  const { templates: touches, total } = looked;
  const beyond = total - touches.length;
  const here = chosen
    ? linesOnDevice(rig, chosen as DeviceId, touches)
    : touches.map((template) => ({ template, count: template.lines.filter((line) => line.portId).length }));
  const what = chosen ? rig.devices[chosen as DeviceId]?.name : "this rig";
  return (
    <section className={classes.touches} aria-label="Templates that use it">
      {here.length
        ? `A change to ${what} reaches `
        : looked === NOT_LOOKED
          ? "Looking which templates use it…"
          : `No template uses ${what}.`}
      {here.map(({ template, count }) => (
        <span key={template.id} className={classes.touched}>
          <PageLink href={`/templates/${template.id}/inputs`}>{template.name}</PageLink> {counted(count, "line")}
          {template.problems ? (
            <span className={classes.problem}>, {counted(template.problems, "problem")}</span>
          ) : (
            `, ${template.hints ? counted(template.hints, "hint") : "no findings"}`
          )}
        </span>
      ))}
      {beyond > 0 && (
        <span className={classes.touched}>
          and {counted(beyond, "template")} more on this rig, changed longer ago and not looked at one by one
        </span>
      )}
    </section>
  );
};

const CHOOSE_DEVICE = "Choose a device at the left first.";

/** The rig: devices as they sit, and whatever is chosen of them in full. */
export const RigScreen = ({
  from,
}: {
  readonly from?: { readonly href: string; readonly name: string } | undefined;
}) => {
  const rig = useRigDocument();
  const go = useGo();
  const { undo, redo } = useUndoing();
  const [chosen, setChosen] = useState<string | null>(null);
  const devices = useMemo(() => rackView(rig), [rig]);
  const findings = useMemo(() => rigFindings(rig), [rig]);
  const { askAdd, askStrip } = useRigActs(setChosen);
  const view = devices.find((entry) => entry.device.id === chosen);
  const acts = useSteady((): readonly Act[] => [
    { id: "add", label: "Add a device…", key: keyOf("add"), run: askAdd },
    {
      id: "edit",
      label: view ? `Rename ${view.device.name}` : "Rename the device",
      key: keyOf("edit"),
      whyNot: view ? undefined : CHOOSE_DEVICE,
      run: () => document.querySelector<HTMLInputElement>("main [data-column=name]")?.focus(),
    },
    {
      id: "remove",
      label: view ? `Retire ${view.device.name}…` : "Retire the device…",
      key: keyOf("remove"),
      whyNot: view ? undefined : CHOOSE_DEVICE,
      run: () => document.getElementById(RETIRE)?.click(),
    },
    { id: "strip", label: "Empty the rig to its bare devices…", run: askStrip },
    {
      id: "export",
      label: "Save the rig as JSON",
      run: () => window.location.assign(`/api/rigs/${rig.id}/export`),
    },
  ]);
  usePageActs(acts, "the rig", TABLE_KEYS);
  const does = [
    ...undoing(undo, redo),
    ...inPalette(acts()),
    { id: "studio", label: "Go to rooms, people and defaults", onClick: () => go("/studio") },
    { id: "library", label: "Go to the library", onClick: () => go("/") },
  ];
  const finds: SpotlightActionData[] = devices.map(({ device }) => ({
    id: device.id,
    label: device.name,
    description: "Device",
    onClick: () => setChosen(device.id),
  }));
  return (
    <PartsFrame from={from} palette={<Palette does={does} finds={finds} />}>
      <div className={classes.screen}>
        <h1 className="visually-hidden">Rig {rig.name}</h1>
        <div className={classes.left}>
          <Rack devices={devices} findings={findings} chosen={view ? chosen : null} onChoose={setChosen} />
          <div className={classes.acts}>
            <Button onClick={askAdd}>Add a device</Button>
            <Button variant="default" size="compact-sm" component="a" href={`/api/rigs/${rig.id}/export`}>
              Save as JSON
            </Button>
            <Button variant="default" size="compact-sm" onClick={askStrip}>
              Empty to bare devices…
            </Button>
          </div>
        </div>
        <div className={classes.work}>
          <Findings />
          <Touches chosen={view ? chosen : null} />
          {view ? <DevicePanel key={view.device.id} view={view} onGone={() => setChosen(null)} /> : <WholePanel />}
        </div>
      </div>
    </PartsFrame>
  );
};
