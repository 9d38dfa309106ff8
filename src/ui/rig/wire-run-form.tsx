"use client";

import { Button } from "@mantine/core";
import { type FormEvent, useState } from "react";
import type { DeviceId } from "@/core/model/ids";
import { devicesOf } from "@/core/model/read-rig";
import { entriesOf } from "@/core/model/table";
import type { Port } from "@/core/model/tables/ports";
import { wireRun } from "@/core/planning/rig-plans";
import { tellRefusal } from "../shared/notices";
import classes from "./rig.module.css";
import { useRigAct, useRigDocument } from "./rig-context";

/** Wires run by run: outputs of one device to inputs of another, in ascending order. */
export const WireRunForm = () => {
  const rig = useRigDocument();
  const act = useRigAct();
  const devices = devicesOf(rig);
  const having = (direction: Port["direction"]) =>
    devices.filter((device) =>
      entriesOf(rig.ports).some((port) => port.deviceId === device.id && port.direction === direction),
    );
  const [outputs, inputs] = [having("out"), having("in")];
  const [fromChosen, setFrom] = useState("");
  const [toChosen, setTo] = useState("");
  const to = toChosen || inputs[0]?.id || "";
  // A lead from a device to itself is rarely meant.
  const from = fromChosen || (outputs.find((device) => device.id !== to) ?? outputs[0])?.id || "";
  const [fromNumber, setFromNumber] = useState("1");
  const [toNumber, setToNumber] = useState("1");
  const [count, setCount] = useState("2");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const made = wireRun(rig, {
      from: from as DeviceId,
      fromNumber: Number(fromNumber),
      to: to as DeviceId,
      toNumber: Number(toNumber),
      count: Number(count),
    });
    if (typeof made === "string") tellRefusal(made);
    else act([made]);
  };
  const choose = (
    label: string,
    value: string,
    set: (value: string) => void,
    options: ReturnType<typeof devicesOf>,
  ) => (
    <label>
      {label}
      <select value={value} onChange={(event) => set(event.target.value)}>
        {options.map((device) => (
          <option key={device.id} value={device.id}>
            {device.name}
          </option>
        ))}
      </select>
    </label>
  );
  /** A port of the device that is chosen, by its number and its name. */
  const port = (
    label: string,
    value: string,
    {
      set,
      deviceId,
      direction,
    }: { readonly set: (value: string) => void; readonly deviceId: string; readonly direction: Port["direction"] },
  ) => {
    const ports = entriesOf(rig.ports)
      .filter((one) => one.deviceId === deviceId && one.direction === direction && one.role !== "loop-back")
      .sort((a, b) => a.number - b.number);
    return (
      <label>
        {label}
        <select value={value} onChange={(event) => set(event.target.value)}>
          {ports.map((one) => (
            <option key={one.id} value={one.number}>
              {[one.number, one.name].filter(Boolean).join(" · ")}
            </option>
          ))}
        </select>
      </label>
    );
  };
  const number = (label: string, value: string, set: (value: string) => void) => (
    <label>
      {label}
      <input inputMode="numeric" value={value} onChange={(event) => set(event.target.value)} />
    </label>
  );
  return (
    <form className={classes.run} onSubmit={submit} aria-label="Wire a run">
      {choose(
        "From",
        from,
        (id) => {
          setFrom(id);
          setFromNumber("1");
        },
        outputs,
      )}
      {port("output", fromNumber, { set: setFromNumber, deviceId: from, direction: "out" })}
      {choose(
        "to",
        to,
        (id) => {
          setTo(id);
          setToNumber("1");
        },
        inputs,
      )}
      {port("input", toNumber, { set: setToNumber, deviceId: to, direction: "in" })}
      {number("how many", count, setCount)}
      <Button type="submit" variant="default" size="compact-md">
        Wire them
      </Button>
    </form>
  );
};
