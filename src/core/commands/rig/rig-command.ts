import type { DeviceId, LinkId, PortId } from "../../model/ids";
import type { RigTable } from "../../model/rig";
import type { PartsCommand } from "../parts";

/** Every edit of a rig. Parts are added, changed and removed by table; what concerns more than one table has a command of its own. */
export type RigCommand =
  | PartsCommand<RigTable>
  | { readonly kind: "rig.strip" }
  | { readonly kind: "ports.name"; readonly names: readonly { readonly portId: PortId; readonly name: string }[] }
  | { readonly kind: "links.plug"; readonly linkId: LinkId; readonly deviceId: DeviceId | null };

export type RigCommandKind = RigCommand["kind"];
