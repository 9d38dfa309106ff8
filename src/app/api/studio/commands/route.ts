import { commandsRoute } from "@/server/http/document-routes";
import { studioStore } from "@/server/services/studio";

export const POST = commandsRoute(studioStore);
