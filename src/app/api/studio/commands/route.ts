import { parseStudioCommands } from "@/contracts/validate";
import { commandsRoute } from "@/server/http/document-routes";
import { studioStore } from "@/server/services/studio";

export const POST = commandsRoute(studioStore, parseStudioCommands);
