"use client";

import { ActionIcon, Button, Menu } from "@mantine/core";
import { IconDots } from "@tabler/icons-react";
import { useRef } from "react";
import type { RigList } from "@/contracts/answers";
import { counted } from "@/core/units/counted";
import { api, ServiceError } from "../shared/api";
import { useGo } from "../shared/going";
import { tellRefusal } from "../shared/notices";
import { PageLink } from "../shared/page-link";
import classes from "./library.module.css";

interface RigsSectionProps {
  readonly rigs: RigList["rigs"];
  readonly onChanged: () => Promise<void>;
}

/** The rigs of the studio: opened, made, copied, read from a file, taken out when nothing stands on them. */
export const RigsSection = ({ rigs, onChanged }: RigsSectionProps) => {
  const go = useGo();
  const fileRef = useRef<HTMLInputElement>(null);
  const run = async (act: () => Promise<void>) => {
    try {
      await act();
    } catch (error) {
      if (!(error instanceof ServiceError)) throw error;
      tellRefusal(error.message);
    }
  };
  const openMade = (make: () => ReturnType<typeof api.createRig>) =>
    run(async () => go(`/rigs/${(await make()).document.id}`));
  return (
    <section aria-label="Rigs" className={classes.rigs}>
      <div className={classes.head}>
        <h2>Rigs</h2>
        <span className={classes.soft}>the hardware of a place, shared by its templates</span>
        <span className={classes.space} />
        <input
          ref={fileRef}
          type="file"
          accept=".json,application/json"
          hidden
          aria-label="Rig to import"
          onChange={(event) => {
            const file = event.currentTarget.files?.[0];
            event.currentTarget.value = "";
            if (file) void openMade(() => api.importRig(file));
          }}
        />
        <Button variant="default" size="compact-md" onClick={() => fileRef.current?.click()}>
          Import a rig
        </Button>
        <Button variant="default" size="compact-md" onClick={() => void openMade(() => api.createRig({}))}>
          New rig
        </Button>
      </div>
      <ul className={classes.rows} aria-label="Rigs">
        {rigs.map((rig) => (
          <li key={rig.id} className={classes.rig}>
            <PageLink href={`/rigs/${rig.id}`} className={classes.open}>
              {rig.name}
            </PageLink>
            <span className={classes.soft}>
              {rig.unreadable ? "can’t be read" : counted(rig.devices, "device")} · {counted(rig.inputs, "input")} ·{" "}
              {rig.templates ? counted(rig.templates, "template") : "no template on it"}
            </span>
            <Menu position="bottom-end">
              <Menu.Target>
                <ActionIcon variant="subtle" color="gray" aria-label={`More for ${rig.name}`} className={classes.above}>
                  <IconDots size={18} stroke={1.7} />
                </ActionIcon>
              </Menu.Target>
              <Menu.Dropdown>
                {!rig.unreadable && (
                  <Menu.Item onClick={() => void openMade(() => api.createRig({ copyOf: rig.id }))}>Copy</Menu.Item>
                )}
                <Menu.Item component="a" href={`/api/rigs/${rig.id}/export${rig.unreadable ? "?format=raw" : ""}`}>
                  {rig.unreadable ? "Save as it is stored" : "Save as JSON"}
                </Menu.Item>
                <Menu.Item
                  onClick={() =>
                    void run(async () => {
                      await api.deleted("rig", rig.id);
                      await onChanged();
                    })
                  }
                >
                  Take out of the studio
                </Menu.Item>
              </Menu.Dropdown>
            </Menu>
          </li>
        ))}
      </ul>
    </section>
  );
};
