"use client";

import type { ReactNode } from "react";
import type { RigState } from "@/contracts/answers";
import { api } from "../shared/api";
import { Opened } from "../shared/opened";
import { RigProvider } from "./rig-context";

interface RigOpenedProps {
  readonly id: string;
  readonly name: string;
  readonly initial: RigState | null;
  readonly children: ReactNode;
}

/** A rig, once its document is there. */
export const RigOpened = ({ id, name, initial, children }: RigOpenedProps) => (
  <Opened initial={initial} load={() => api.loadRig(id)} name={name}>
    {(state) => <RigProvider initial={state}>{children}</RigProvider>}
  </Opened>
);
