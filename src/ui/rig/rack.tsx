"use client";

import { UnstyledButton } from "@mantine/core";
import { IconAlertTriangle, IconClock, IconPlugConnected } from "@tabler/icons-react";
import type { RigFinding } from "@/core/checks/rig-findings";
import type { RackDevice, RackPort } from "@/core/layout/rack";
import classes from "./rack.module.css";

const KIND_NAMES = {
  interface: "interface",
  expander: "expander",
  preamp: "outside preamp",
  outboard: "outboard",
  "headphone-amplifier": "headphone amplifier",
} as const;

const Sockets = ({ ports, words }: { readonly ports: readonly RackPort[]; readonly words: string }) =>
  ports.length ? (
    <div className={classes.line}>
      <span className={classes.words}>{words}</span>
      <span className={classes.sockets}>
        {ports.map(({ port, label, joined }) => (
          <span
            key={port.id}
            className={classes.socket}
            data-joined={joined !== "" || undefined}
            data-role={port.role}
            title={`${label}${port.name ? `, ${port.name}` : ""}${joined ? `: ${joined}` : ""}`}
          >
            {port.number}
          </span>
        ))}
      </span>
    </div>
  ) : null;

interface RackProps {
  readonly devices: readonly RackDevice[];
  readonly findings: readonly RigFinding[];
  /** Null: the rig as a whole. */
  readonly chosen: string | null;
  readonly onChoose: (deviceId: string | null) => void;
}

/** The devices as they sit one above the other, each with its sockets, what is joined filled in. */
export const Rack = ({ devices, findings, chosen, onChoose }: RackProps) => (
  <nav className={classes.rack} aria-label="Devices of the rig">
    <UnstyledButton
      className={classes.whole}
      aria-current={chosen === null ? "true" : undefined}
      onClick={() => onChoose(null)}
    >
      The rig as a whole
      <span>wiring, listening, shelf</span>
    </UnstyledButton>
    {devices.map(({ device, inputs, outputs, links, clock }) => {
      const trouble = findings.find((finding) => finding.deviceId === device.id);
      return (
        <UnstyledButton
          key={device.id}
          className={classes.device}
          data-kind={device.kind}
          aria-current={chosen === device.id ? "true" : undefined}
          onClick={() => onChoose(device.id)}
        >
          <span className={classes.head}>
            <strong>{device.name}</strong>
            {device.shortName && <span className="mono">{device.shortName}</span>}
            <span className={classes.kind}>{KIND_NAMES[device.kind]}</span>
          </span>
          <Sockets ports={inputs} words="in" />
          <Sockets ports={outputs} words="out" />
          {links.some((link) => link.device) && (
            <span className={classes.note}>
              <IconPlugConnected size={14} stroke={1.7} aria-hidden />
              {links.flatMap((link) => (link.device ? [`${link.link.name}: ${link.device.name}`] : [])).join(" · ")}
            </span>
          )}
          {clock && (
            <span className={classes.note}>
              <IconClock size={14} stroke={1.7} aria-hidden />
              {clock}
            </span>
          )}
          {trouble && (
            <span className={classes.trouble} data-severity={trouble.severity}>
              <IconAlertTriangle size={14} stroke={1.9} aria-hidden />
              {trouble.message}
            </span>
          )}
        </UnstyledButton>
      );
    })}
  </nav>
);
