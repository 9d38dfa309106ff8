import { join } from "node:path";
import PDFDocument from "pdfkit";
import { type PatchingSheet, PHANTOM_WORDS, type SheetRow, sharedWords } from "@/core/layout/patching-sheet";
import { colourHex } from "@/core/model/colours";
import type { OwnColour } from "@/core/model/tables/own-colours";

const font = (file: string) => join(process.cwd(), "node_modules/@expo-google-fonts/archivo", file);

// Asked for by path, never by a name of our own: pdfkit would open the file anew for every text
const FACES = {
  plain: font("400Regular/Archivo_400Regular.ttf"),
  strong: font("600SemiBold/Archivo_600SemiBold.ttf"),
} as const;

const INK = { text: "#20272c", soft: "#5c656b", rule: "#cfc7b6", phantom: "#b3261e" } as const;

/** Points of A4: where the columns begin after box and dye, and how high things are. */
const EDGE = 36;
const CELLS = EDGE + 29;
const SIZE = { text: 9.5, head: 8.5, foot: 8, section: 11, title: 18 } as const;
const HEIGHT = { row: 21, head: 15, section: 46 } as const;
/** A cell of more lines than this goes under its row, as wide as the sheet. */
const MOST_LINES = 6;

interface Column {
  readonly title: string;
  readonly share: number;
  readonly text: (row: SheetRow) => string;
  readonly ink?: string;
  readonly strong?: true;
}

const COLUMNS: readonly Column[] = [
  { title: "Input", share: 0.06, text: (row) => row.input || "–", strong: true },
  { title: "Through", share: 0.14, text: (row) => row.through },
  {
    title: "Source",
    share: 0.18,
    text: (row) => [row.source, sharedWords(row)].filter(Boolean).join("\n"),
    strong: true,
  },
  { title: "Microphone or box", share: 0.19, text: (row) => row.microphone },
  {
    title: "48 V",
    share: 0.09,
    text: (row) => (row.phantom ? PHANTOM_WORDS[row.phantom] : ""),
    ink: INK.phantom,
    strong: true,
  },
  { title: "Preamp", share: 0.09, text: (row) => row.settings },
  { title: "Player", share: 0.13, text: (row) => row.player },
  { title: "Note", share: 0.12, text: (row) => row.note },
];

export interface Stamp {
  readonly revision: number;
  readonly savedAt: string;
  readonly ownColours: readonly OwnColour[];
}

interface Placed {
  readonly column: Column;
  readonly text: string;
  readonly x: number;
  readonly width: number;
}

/**
 * A sheet of A4 that rows are put on one after the other, each measured once: the time taken is linear in their number.
 */
const openPaper = (title: string) => {
  const pdf = new PDFDocument({
    size: "A4",
    margin: EDGE,
    bufferPages: true,
    lang: "en",
    displayTitle: true,
    info: { Title: `${title}, patching sheet` },
    font: FACES.plain,
  });
  const parts: Buffer[] = [];
  pdf.on("data", (part: Buffer) => parts.push(part));
  const done = new Promise<Uint8Array>((resolve, reject) =>
    pdf.on("end", () => resolve(new Uint8Array(Buffer.concat(parts)))).on("error", reject),
  );

  const bottom = pdf.page.height - EDGE;
  const across = pdf.page.width - EDGE - CELLS;
  const write = (
    text: string,
    { face, size, ink }: { readonly face: keyof typeof FACES; readonly size: number; readonly ink: string },
  ) => ({
    at: (x: number, y: number, options: PDFKit.Mixins.TextOptions) =>
      pdf.font(FACES[face]).fontSize(size).fillColor(ink).text(text, x, y, options),
  });
  const rule = () =>
    pdf
      .moveTo(EDGE, pdf.y)
      .lineTo(pdf.page.width - EDGE, pdf.y)
      .lineWidth(0.5)
      .strokeColor(INK.rule)
      .stroke();
  const faceOf = ({ strong }: Column) => (strong ? "strong" : "plain");

  let from = CELLS;
  const placed = COLUMNS.map((column) => {
    const x = from;
    from += column.share * across;
    return { column, x, width: column.share * across - 6 };
  });

  const measure = ({ column, text, width }: Placed): { readonly oneLine: boolean; readonly height: number } => {
    pdf.font(FACES[faceOf(column)]).fontSize(SIZE.text);
    const oneLine = !text.includes("\n") && pdf.widthOfString(text) <= width;
    return { oneLine, height: oneLine ? pdf.currentLineHeight(true) : pdf.heightOfString(text, { width }) };
  };

  const section = (words: string) => {
    write(words, { face: "strong", size: SIZE.section, ink: INK.text }).at(EDGE, pdf.y + 10, { lineBreak: false });
    pdf.y += 18;
    const top = pdf.y;
    for (const { column, x, width } of placed)
      write(column.title, { face: "plain", size: SIZE.head, ink: INK.soft }).at(x, top, { width, lineBreak: false });
    pdf.y = top + HEIGHT.head;
    rule();
  };

  /** A section begins where its headings and a first row fit, else on the next page. */
  const begin = (words: string) => {
    if (pdf.y + HEIGHT.section + HEIGHT.row > bottom) pdf.addPage();
    section(words);
  };

  /** A row that does not fit goes to the next page, under the headings of its section. */
  const makeRoom = (height: number, words: string) => {
    if (pdf.y + height <= bottom) return;
    pdf.addPage();
    section(words);
  };

  const row = (entry: SheetRow, colour: string, goesOn: string) => {
    const cells = placed
      .map((at) => ({ ...at, text: at.column.text(entry) }))
      .map((cell) => ({ ...cell, ...measure(cell) }));
    const most = MOST_LINES * pdf.currentLineHeight(true) + 1;
    const beside = cells.filter(({ height }) => height <= most);
    const height = Math.max(HEIGHT.row, ...beside.map((cell) => cell.height + 6));
    makeRoom(height, goesOn);
    const top = pdf.y;
    pdf
      .rect(EDGE, top + (height - 9) / 2, 9, 9)
      .lineWidth(0.8)
      .strokeColor(INK.text)
      .stroke();
    pdf.rect(EDGE + 17, top + (height - 14) / 2, 4, 14).fill(colour);
    for (const { column, text, x, width, height: own, oneLine } of beside)
      if (text)
        write(text, { face: faceOf(column), size: SIZE.text, ink: column.ink ?? INK.text }).at(
          x,
          top + (height - own) / 2,
          oneLine ? { lineBreak: false } : { width },
        );
    pdf.y = top + height;
    for (const { column, text } of cells.filter((cell) => cell.height > most))
      write(`${column.title}: ${text}`, { face: "plain", size: SIZE.text, ink: INK.text }).at(CELLS, pdf.y + 2, {
        width: across,
      });
    rule();
  };

  const head = (subtitle: string) => {
    write(title, { face: "strong", size: SIZE.title, ink: INK.text }).at(EDGE, EDGE, {});
    write(subtitle, { face: "plain", size: SIZE.text, ink: INK.soft }).at(EDGE, pdf.y + 2, {});
  };

  /** The foot of every page, once it is known how many there are. */
  const close = (foot: string): Promise<Uint8Array> => {
    const { count } = pdf.bufferedPageRange();
    for (let at = 0; at < count; at += 1) {
      pdf.switchToPage(at);
      // Text below the bottom margin would begin a page of its own
      pdf.page.margins.bottom = 0;
      const style = { face: "plain", size: SIZE.foot, ink: INK.soft } as const;
      write(foot, style).at(EDGE, bottom + 10, { width: across - 40, height: 10, ellipsis: true });
      write(`${at + 1} of ${count}`, style).at(pdf.page.width - EDGE - 80, bottom + 10, {
        width: 80,
        align: "right",
        lineBreak: false,
      });
    }
    pdf.end();
    return done;
  };

  return { head, begin, row, close };
};

/**
 * The patching sheet as a PDF on A4, in the type and dyes of the screen. Rows are never parted; a section that goes on
 * to another page says so there, under the same headings.
 */
export const renderPatchingSheet = (
  sheet: PatchingSheet,
  { revision, savedAt, ownColours }: Stamp,
): Promise<Uint8Array> => {
  const paper = openPaper(sheet.title);
  paper.head(`Patching sheet · ${sheet.subtitle} · ${sheet.lineCount} lines, ${sheet.phantomCount} with 48 V`);
  for (const { title, rows } of sheet.sections) {
    paper.begin(title);
    for (const row of rows) paper.row(row, colourHex(row.colour, "cloth", ownColours), `${title}, continued`);
  }
  return paper.close(`${sheet.title} · revision ${revision}, ${savedAt.slice(0, 10)}`);
};
