import { sql } from "drizzle-orm";
import { json, route } from "@/server/http/route";

export const dynamic = "force-dynamic";

export const GET = route(async ({ db }) => {
  await db.execute(sql`select 1`);
  return json({ status: "ok", database: "reached" });
});
