import type { RawResult } from './raw-netlist';
import { emptyNetlist, joinPin, nameFrom, partNamed } from './raw-netlist';
import { listsNamed, parseExpression, textOf, type ExpressionList } from './s-expression';

/**
 * Reads the parenthesised netlist `(export (version …) (components …) (nets …))`, versions D and E.
 * Names of pins come from its part library where there is one.
 */
export function readExport(source: string): RawResult {
  const parsed = parseExpression(source);
  if (!parsed.ok) return { ok: false, issues: [parsed.issue] };
  const { root } = parsed;
  if (root.items[0] !== 'export')
    return {
      ok: false,
      issues: [{ line: 1, what: 'the list is no netlist', expected: '(export (version …) …' }],
    };
  const netlist = emptyNetlist(titleOf(root) || 'netlist');
  const version = textOf(root, 'version');
  if (!/^[DE]$/i.test(version))
    netlist.skipped.push(`version ${version || 'not said'}: read as version E`);
  const pinNames = namesOfPins(root);
  const libraryPart = new Map<string, string>();
  for (const component of listsNamed(root, 'components').flatMap((list) =>
    listsNamed(list, 'comp'),
  )) {
    const ref = textOf(component, 'ref');
    if (ref === '') {
      netlist.skipped.push(`line ${component.line}: a component without a designator`);
      continue;
    }
    const part = partNamed(netlist, ref);
    const [source = component] = listsNamed(component, 'libsource');
    part.value = textOf(component, 'value').replace(/^~$/, '');
    part.device = textOf(source, 'part');
    part.footprint = textOf(component, 'footprint');
    libraryPart.set(part.ref, `${textOf(source, 'lib')}:${part.device}`);
  }
  for (const net of listsNamed(root, 'nets').flatMap((list) => listsNamed(list, 'net'))) {
    const name = nameFrom(textOf(net, 'name') || `N${textOf(net, 'code')}`);
    for (const node of listsNamed(net, 'node')) {
      const [ref, pin] = [textOf(node, 'ref'), textOf(node, 'pin')];
      if (ref === '' || pin === '') {
        netlist.skipped.push(`line ${node.line}: a node of ${name} without part or pin`);
        continue;
      }
      const called =
        textOf(node, 'pinfunction') ||
        pinNames.get(`${libraryPart.get(nameFrom(ref)) ?? ''} ${pin}`) ||
        '';
      joinPin(netlist, ref, {
        pin: nameFrom(pin),
        net: name,
        ...(called && called !== '~' ? { name: called } : {}),
      });
    }
  }
  return { ok: true, netlist };
}

function titleOf(root: ExpressionList): string {
  const design = listsNamed(root, 'design')[0];
  const sheet = design && listsNamed(design, 'sheet')[0];
  const block = sheet && listsNamed(sheet, 'title_block')[0];
  return (block ? textOf(block, 'title') : '').slice(0, 200);
}

/** What the part library of the file calls each pin, by `library:part pin`. */
function namesOfPins(root: ExpressionList): ReadonlyMap<string, string> {
  const names = new Map<string, string>();
  for (const part of listsNamed(root, 'libparts').flatMap((list) => listsNamed(list, 'libpart'))) {
    const key = `${textOf(part, 'lib')}:${textOf(part, 'part')}`;
    for (const pin of listsNamed(part, 'pins').flatMap((list) => listsNamed(list, 'pin')))
      names.set(`${key} ${textOf(pin, 'num')}`, textOf(pin, 'name'));
  }
  return names;
}
