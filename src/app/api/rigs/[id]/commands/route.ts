import { commandsRoute } from "@/server/http/document-routes";
import { rigStore } from "@/server/services/rigs";

export const POST = commandsRoute(rigStore);
