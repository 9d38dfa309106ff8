import { EmptyBinQuery } from "@/contracts/requests";
import { json, readQuery, route } from "@/server/http/route";
import { emptyBin, listBin } from "@/server/services/bin";
import { Failure } from "@/server/services/failure";

export const GET = route(async ({ db }) => json(await listBin(db)));

export const DELETE = route(async ({ db, url }) => {
  const { upTo } = readQuery(EmptyBinQuery, url);
  const at = new Date(upTo);
  if (Number.isNaN(at.getTime()))
    throw new Failure(400, "Malformed request", `${upTo} is no time.`, {
      errors: [{ pointer: "/upTo", detail: "no time" }],
    });
  return json({ gone: await emptyBin(db, at) });
});
