import { entriesOf } from "../model/table";
import { fileName, nameFault } from "../reading/file-name";
import { type Check, finding } from "./finding";
import { shown } from "./track-names";

export const documentNames: Check = {
  id: "document-names",
  why: "Template and folders become folders on a disk: a name it does not take stops the session from being saved there.",
  withoutRig: true,
  reads: ["folders.name", "name"],
  check: ({ doc }) => {
    const template = nameFault(doc.name);
    const name = fileName(doc.name) || "Template";
    return [
      ...(template
        ? [
            finding("document-name", {
              severity: "problem",
              message: `“${shown(doc.name)}” ${template}.`,
              places: [{ kind: "template", id: doc.id, field: "name" }],
              fixes: [{ label: `Name it ${shown(name)}`, edits: [{ kind: "document.rename", name }] }],
            }),
          ]
        : []),
      ...entriesOf(doc.folders).flatMap((folder) => {
        const why = nameFault(folder.name);
        const better = fileName(folder.name) || "Folder";
        return why
          ? [
              finding("document-name", {
                severity: "problem",
                message: `The folder “${shown(folder.name)}” ${why}.`,
                places: [{ kind: "folder", id: folder.id, field: "name" }],
                fixes: [
                  {
                    label: `Name it ${shown(better)}`,
                    edits: [{ kind: "entries.set", table: "folders", ids: [folder.id], set: { name: better } }],
                  },
                ],
              }),
            ]
          : [];
      }),
    ];
  },
};
