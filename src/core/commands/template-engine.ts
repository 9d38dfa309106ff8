import { TEMPLATE, type Template } from "../model/template";
import { engineOf } from "./engine";
import { brokenIn } from "./standing";

/** Every edit of a template. */
export const templateEngine = engineOf<Template>(TEMPLATE);

/** What must hold of a template in every revision and does not. */
export const brokenInvariants: (doc: Template) => readonly string[] = brokenIn(TEMPLATE);
