import { NOTHING, type Block, type Paper } from './paper';
import style from './PaperSheet.module.css';

/** A paper on the screen, and as the browser prints it. */
export function PaperSheet({ paper: { kind, title, facts, sections, foot } }: { paper: Paper }) {
  return (
    <article className={style.report}>
      <header>
        <p className={style.kind}>{kind}</p>
        <h2>{title}</h2>
        <dl>
          {facts.map(([name, value]) => (
            <div key={name}>
              <dt>{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
        </dl>
      </header>
      {sections.map((section) => (
        <section key={section.title}>
          <h3>{section.title}</h3>
          {section.blocks.length === 0 && <p className={style.none}>{NOTHING}</p>}
          {section.blocks.map((block, i) => (
            <Shown key={i} block={block} />
          ))}
        </section>
      ))}
      <footer>{foot}</footer>
    </article>
  );
}

function Shown({ block }: { block: Block }) {
  if (block.type === 'words') return <p>{block.text}</p>;
  if (block.type === 'list')
    return (
      <ul>
        {block.lines.map((line, i) => (
          <li key={`${i} ${line}`}>{line}</li>
        ))}
      </ul>
    );
  return (
    <table>
      <thead>
        <tr>
          {block.head.map((name) => (
            <th key={name} scope="col">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {block.rows.map((row, i) => (
          <tr key={i}>
            {row.map((cell, k) =>
              k === 0 ? (
                <th key={k} scope="row">
                  {cell}
                </th>
              ) : (
                <td key={k} className={block.mono?.includes(k) ? 'mono' : undefined}>
                  {cell}
                </td>
              ),
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
