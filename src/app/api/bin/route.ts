import { EmptyBinQuery } from "@/contracts/requests";
import { json, readQuery, route } from "@/server/http/route";
import { emptyBin, listBin } from "@/server/services/bin";

export const GET = route(async ({ db }) => json(await listBin(db)));

export const DELETE = route(async ({ db, url }) =>
  json({ gone: await emptyBin(db, new Date(readQuery(EmptyBinQuery, url).upTo)) }),
);
