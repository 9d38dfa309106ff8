"use client";

import type { ReactNode } from "react";
import type { TemplateState } from "@/contracts/answers";
import type { Rig } from "@/core/model/rig";
import type { Studio } from "@/core/model/studio";
import { api } from "../shared/api";
import { Opened } from "../shared/opened";
import { DeskProvider } from "./desk-context";

interface DeskOpenedProps {
  readonly id: string;
  readonly name: string;
  readonly initial: TemplateState | null;
  readonly rigs: readonly Rig[];
  readonly studio: Studio;
  readonly children: ReactNode;
}

/** The desk of a template, once its document is there. */
export const DeskOpened = ({ id, name, initial, rigs, studio, children }: DeskOpenedProps) => (
  <Opened initial={initial} load={() => api.loadTemplate(id)} name={name}>
    {(state) => <DeskProvider initial={{ ...state, rigs, studio }}>{children}</DeskProvider>}
  </Opened>
);
