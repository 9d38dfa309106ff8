import { type EntryOf, name, partOf } from "../describe/fields";
import { described } from "../describe/table";
import type { BankId, DeviceId } from "../ids";
import { MOST } from "../limits";

const FIELDS = {
  deviceId: partOf<DeviceId>({ to: "devices", dangling: "belongs to no device", brings: true }, { word: "the device" }),
  name: name(40, { word: "the name" }),
};

/** Switches that put 48 V on several inputs at once. */
export const BANKS = described({
  one: "phantom bank",
  many: "phantom banks",
  most: MOST.parts,
  fields: FIELDS,
  called: (bank: PhantomBank) => bank.name,
});

export interface PhantomBank extends EntryOf<typeof FIELDS> {
  readonly id: BankId;
}
