import type { BoardIndex } from '@hanzai/core/board';
import {
  believeBlocks,
  blocksOfParts,
  CaseContext,
  contextEvidence,
  modelOfContext,
  partFactors,
  proposedPatterns,
  type BlockBelief,
} from '@hanzai/core/block';
import { ARCHETYPES } from '@hanzai/data';
import { InputError } from './arguments';
import { readText } from './files';

/** What is known of the unit beside readings, with what it makes of each part of the board. */
export interface Context {
  readonly unit: string;
  readonly blocks: BlockBelief['byBlock'];
  readonly factor: (ref: string) => number;
}

/** Reads the file that --context names; undefined where there is none. */
export function contextOf(index: BoardIndex, file: string | undefined): Context | undefined {
  if (file === undefined) return undefined;
  let raw: unknown;
  try {
    raw = JSON.parse(readText(file));
  } catch {
    throw new InputError(
      `${file}: not JSON; expected {"unit", "complaint", "patterns", "stage", "codes", "starts"}`,
    );
  }
  const parsed = CaseContext.safeParse(raw);
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    throw new InputError(
      `${file}: ${issue!.path.join('.') || 'the file'}: ${issue!.message}; expected what docs/formats/readings.md says`,
    );
  }
  const model = modelOfContext(ARCHETYPES, parsed.data);
  if ('what' in model) throw new InputError(`${file}: ${model.what}; expected ${model.expected}`);
  const evidence = contextEvidence(model, parsed.data);
  if ('what' in evidence)
    throw new InputError(`${file}: ${evidence.what}; expected ${evidence.expected}`);
  const proposed = proposedPatterns(model, parsed.data);
  if (proposed.length > 0)
    process.stderr.write(
      `${file}: note: the complaint may speak of ${proposed.join(', ')}; put what is so under "patterns"\n`,
    );
  const { byBlock } = believeBlocks(model, evidence);
  const factors = partFactors(model, blocksOfParts(model, index), byBlock);
  return { unit: model.name, blocks: byBlock, factor: (ref) => factors.get(ref) ?? 1 };
}
