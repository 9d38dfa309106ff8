import { join } from "node:path";
import { Document, Font, Page, renderToBuffer, StyleSheet, Text, View } from "@react-pdf/renderer";
import { type PatchingSheet, PHANTOM_WORDS, type SheetRow } from "@/core/layout/patching-sheet";
import { dyeHex, type OwnDye } from "@/core/model/dyes";

const font = (file: string) => join(process.cwd(), "node_modules/@expo-google-fonts/archivo", file);

Font.register({
  family: "Archivo",
  fonts: [
    { src: font("400Regular/Archivo_400Regular.ttf"), fontWeight: 400 },
    { src: font("600SemiBold/Archivo_600SemiBold.ttf"), fontWeight: 600 },
  ],
});
Font.registerHyphenationCallback((word) => [word]);

const styles = StyleSheet.create({
  page: { fontFamily: "Archivo", fontSize: 9.5, color: "#20272c", paddingVertical: 36, paddingHorizontal: 36 },
  title: { fontSize: 18, fontWeight: 600 },
  subtitle: { color: "#5c656b", marginTop: 2, marginBottom: 10 },
  section: { fontSize: 11, fontWeight: 600, marginTop: 10, marginBottom: 3 },
  row: { flexDirection: "row", alignItems: "center", borderBottomWidth: 0.5, borderBottomColor: "#cfc7b6", minHeight: 21, paddingVertical: 2 },
  head: { color: "#5c656b", fontSize: 8.5, minHeight: 14 },
  box: { width: 9, height: 9, flexShrink: 0, borderWidth: 0.8, borderColor: "#20272c", marginRight: 8 },
  dye: { width: 4, height: 14, flexShrink: 0, marginRight: 8 },
  phantom: { fontWeight: 600, color: "#b3261e" },
  soft: { color: "#5c656b" },
  foot: { position: "absolute", left: 36, right: 36, bottom: 18, flexDirection: "row", justifyContent: "space-between", color: "#5c656b", fontSize: 8 },
});

const sourceText = ({ source, sharedWith }: SheetRow): string => (sharedWith.length ? `${source}\nsame input as ${sharedWith.join(", ")}` : source);

const COLUMNS: readonly { readonly title: string; readonly width: string; readonly text: (row: SheetRow) => string }[] = [
  { title: "Input", width: "7%", text: (row) => row.input || "–" },
  { title: "Through", width: "12%", text: (row) => row.through },
  { title: "Source", width: "19%", text: sourceText },
  { title: "Microphone or box", width: "18%", text: (row) => row.microphone },
  { title: "48 V", width: "8%", text: (row) => (row.phantom ? PHANTOM_WORDS[row.phantom] : "") },
  { title: "Preamp", width: "11%", text: (row) => row.settings },
  { title: "Player", width: "11%", text: (row) => row.player },
  { title: "Note", width: "14%", text: (row) => row.note },
];

const Row = ({ row, ownDyes }: { readonly row: SheetRow; readonly ownDyes: readonly OwnDye[] }) => (
  <View style={styles.row} wrap={false}>
    <View style={styles.box} />
    <View style={[styles.dye, { backgroundColor: dyeHex(row.dye, "cloth", ownDyes) }]} />
    {COLUMNS.map(({ title, width, text }) => (
      <Text key={title} style={[{ width, paddingRight: 6 }, title === "48 V" ? styles.phantom : {}, title === "Source" || title === "Input" ? { fontWeight: 600 } : {}]}>
        {text(row)}
      </Text>
    ))}
  </View>
);

/** The headings, again on every page that the section goes on to. */
const Head = () => (
  <View style={[styles.row, styles.head]} fixed>
    <View style={{ width: 29, flexShrink: 0 }} />
    {COLUMNS.map(({ title, width }) => (
      <Text key={title} style={{ width }}>
        {title}
      </Text>
    ))}
  </View>
);

interface Stamp {
  readonly revision: number;
  readonly savedAt: string;
  readonly ownDyes: readonly OwnDye[];
}

interface Part {
  readonly title: string;
  /** The section was begun on an earlier page. */
  readonly continued: boolean;
  readonly rows: readonly SheetRow[];
}

/** Points of A4 between the margins, and what lies on it that is no row. */
const PAGE = { height: 760, title: 58, section: 42, row: 21, line: 11.5, width: 494, letter: 5 } as const;

/** How high a row will be: as many lines as its fullest cell needs, at the width an average letter has. */
const heightOf = (row: SheetRow): number => {
  const lines = COLUMNS.map(({ width, text }) => {
    const letters = Math.max(4, Math.floor((PAGE.width * Number.parseFloat(width)) / 100 / PAGE.letter) - 1);
    return text(row)
      .split("\n")
      .reduce((sum, part) => sum + Math.max(1, Math.ceil(part.length / letters)), 0);
  });
  return Math.max(PAGE.row, Math.max(...lines) * PAGE.line + 6);
};

/**
 * Which rows go on which page. Parted here and not by the renderer, which looks at all that is left anew for every page: 500 rows took it 15 s.
 * A page that turns out fuller than reckoned goes on to another one, so that nothing is ever cut.
 */
export const pagesOf = ({ sections }: PatchingSheet): readonly (readonly Part[])[] => {
  const pages: { title: string; continued: boolean; rows: SheetRow[] }[][] = [[]];
  let left: number = PAGE.height - PAGE.title;
  for (const section of sections) {
    let part: { title: string; continued: boolean; rows: SheetRow[] } | null = null;
    for (const row of section.rows) {
      const height = heightOf(row);
      const needed: number = height + (part ? 0 : PAGE.section);
      if (needed > left && pages.at(-1)?.length) {
        pages.push([]);
        left = PAGE.height;
        part = null;
      }
      if (!part) {
        part = { title: section.title, continued: row !== section.rows[0], rows: [] };
        pages.at(-1)?.push(part);
        left -= PAGE.section;
      }
      part.rows.push(row);
      left -= height;
    }
  }
  return pages;
};

const Sheet = ({ sheet, stamp }: { readonly sheet: PatchingSheet; readonly stamp: Stamp }) => (
  <Document title={`${sheet.title}, patching sheet`} language="en">
    {pagesOf(sheet).map((parts, at) => (
      <Page key={at} size="A4" style={styles.page}>
        {at === 0 && (
          <>
            <Text style={styles.title}>{sheet.title}</Text>
            <Text style={styles.subtitle}>
              Patching sheet · {sheet.subtitle} · {sheet.lineCount} lines, {sheet.phantomCount} with 48 V
            </Text>
          </>
        )}
        {parts.map((part) => (
          <View key={part.title}>
            <Text style={styles.section}>
              {part.title}
              {part.continued ? ", continued" : ""}
            </Text>
            <Head />
            {part.rows.map((row) => (
              <Row key={row.key} row={row} ownDyes={stamp.ownDyes} />
            ))}
          </View>
        ))}
        <View style={styles.foot} fixed>
          <Text>
            {sheet.title} · revision {stamp.revision}, {stamp.savedAt.slice(0, 10)}
          </Text>
          <Text render={({ pageNumber, totalPages }) => `${pageNumber} of ${totalPages}`} />
        </View>
      </Page>
    ))}
  </Document>
);

/** The patching sheet as a PDF on A4, in the type and dyes of the screen. */
export const renderPatchingSheet = async (sheet: PatchingSheet, stamp: Stamp): Promise<Uint8Array> => new Uint8Array(await renderToBuffer(<Sheet sheet={sheet} stamp={stamp} />));
