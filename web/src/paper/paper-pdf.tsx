import { Document, Font, Page, StyleSheet, Text, View } from '@react-pdf/renderer';
import { NOTHING, type Block, type Paper } from './paper';

// A paper as a PDF of A4 pages, with the fonts of the application: the second has the signs that the
// first lacks, such as ohm and micro.

/** Addresses, or paths, of the fonts. */
export interface PaperFonts {
  readonly plain: string;
  readonly bold: string;
  readonly figures: string;
}

const style = StyleSheet.create({
  page: { padding: 42, paddingBottom: 56, fontFamily: ['Words', 'Figures'], fontSize: 9.5 },
  kind: { fontFamily: 'Figures', fontSize: 9 },
  title: { fontSize: 16, fontWeight: 700, marginBottom: 6 },
  facts: {
    flexDirection: 'row',
    flexWrap: 'wrap',
    paddingBottom: 6,
    borderBottom: '2pt solid #1c2430',
  },
  fact: { width: '33%', paddingRight: 10, marginBottom: 4 },
  name: { fontSize: 8, color: '#555' },
  heading: { fontSize: 11, fontWeight: 700, marginTop: 10, marginBottom: 3 },
  none: { color: '#666' },
  line: { flexDirection: 'row', marginBottom: 1.5 },
  dot: { width: 10 },
  row: { flexDirection: 'row', borderBottom: '0.5pt solid #bbb', paddingVertical: 2 },
  cell: { paddingRight: 6 },
  head: { fontWeight: 700 },
  figures: { fontFamily: ['Figures', 'Words'], fontSize: 8.5 },
  foot: { position: 'absolute', bottom: 26, left: 42, right: 110, fontSize: 7.5, color: '#555' },
  number: {
    position: 'absolute',
    bottom: 26,
    left: 42,
    right: 42,
    fontFamily: 'Figures',
    fontSize: 7.5,
    color: '#555',
    textAlign: 'right',
  },
});

let registered: string | undefined;

/** Makes the fonts known, once for each set of them. */
export function registerFonts({ plain, bold, figures }: PaperFonts): void {
  if (registered === plain) return;
  registered = plain;
  Font.register({
    family: 'Words',
    fonts: [
      { src: plain, fontWeight: 400 },
      { src: bold, fontWeight: 700 },
    ],
  });
  Font.register({
    family: 'Figures',
    fonts: [{ src: figures }, { src: figures, fontWeight: 700 }],
  });
  // Words are not broken: a part number in two pieces is another one.
  Font.registerHyphenationCallback((word) => [word]);
}

/** The paper as a document; the fonts have to be known. */
export function PaperPdf({ paper: { kind, title, facts, sections, foot } }: { paper: Paper }) {
  return (
    <Document title={`${kind}: ${title}`} creator="Hanzai" producer="Hanzai">
      <Page size="A4" style={style.page}>
        <Text style={style.kind}>{kind}</Text>
        <Text style={style.title}>{title}</Text>
        <View style={style.facts}>
          {facts.map(([name, value]) => (
            <View key={name} style={style.fact}>
              <Text style={style.name}>{name}</Text>
              <Text>{value}</Text>
            </View>
          ))}
        </View>
        {sections.map((section) => (
          <View key={section.title}>
            <Text style={style.heading} minPresenceAhead={36}>
              {section.title}
            </Text>
            {section.blocks.length === 0 && <Text style={style.none}>{NOTHING}</Text>}
            {section.blocks.map((block, i) => (
              <Shown key={i} block={block} />
            ))}
          </View>
        ))}
        <Text style={style.foot} fixed>
          {foot}
        </Text>
        <Text
          style={style.number}
          fixed
          render={({ pageNumber, totalPages }) => `${pageNumber} of ${totalPages}`}
        />
      </Page>
    </Document>
  );
}

function Shown({ block }: { block: Block }) {
  if (block.type === 'words') return <Text>{block.text}</Text>;
  if (block.type === 'list')
    return (
      <>
        {block.lines.map((line, i) => (
          <View key={`${i} ${line}`} style={style.line} wrap={false}>
            <Text style={style.dot}>·</Text>
            <Text style={{ flex: 1 }}>{line}</Text>
          </View>
        ))}
      </>
    );
  const width = (column: number): string =>
    `${(column === 0 ? 34 : 66 / Math.max(1, block.head.length - 1)).toFixed(2)}%`;
  return (
    <>
      <View style={style.row} wrap={false}>
        {block.head.map((name, k) => (
          <Text key={name} style={[style.cell, style.head, { width: width(k) }]}>
            {name}
          </Text>
        ))}
      </View>
      {block.rows.map((row, i) => (
        <View key={i} style={style.row} wrap={false}>
          {row.map((cell, k) => (
            <Text
              key={k}
              style={[
                style.cell,
                ...(block.mono?.includes(k) ? [style.figures] : []),
                { width: width(k) },
              ]}
            >
              {cell}
            </Text>
          ))}
        </View>
      ))}
    </>
  );
}
