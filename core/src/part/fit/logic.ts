import type { ChipModel } from '../../board';
import { FAMILY_LEVELS, familyWords, type FamilyLevels } from '../family-levels';
import type { LogicNeighbour, Place } from '../place';
import { danger, ok, stop, warn, type FitnessRemark } from '../remark';
import type { AmplifierSpec, LogicSpec } from '../spec';

/**
 * Judges a logic chip: function, pins, stages of its outputs, levels both ways with what stands
 * around it, fan-out, speed. Levels: published TTL and CMOS tables, from memory.
 */
export function judgeLogic(
  was: LogicSpec,
  offered: LogicSpec,
  place: Place,
): readonly FitnessRemark[] {
  const same = was.number !== undefined && was.number === offered.number;
  const body = pinsAndFunction(was, offered, same);
  if (body.some(({ level }) => level === 'stop')) return body;
  const [before, now] = [levelsOf(was), levelsOf(offered)];
  return [
    ...body,
    ...openCollectorVolts(offered, place),
    ...(before && now
      ? [
          ...levelsIn(was, offered, now, place.drivers),
          ...levelsOut(offered, now, place.loads, was),
          fanOut(was, offered, before, now, place.loads),
          speed(before, now),
        ]
      : was.name === offered.name
        ? [ok('levels-in', 'the same type')]
        : [warn('not-judged', 'levels, drive and speed not judged: compare the two data sheets')]),
    socket(offered),
  ];
}

const levelsOf = ({ family }: LogicSpec): FamilyLevels | undefined =>
  family === undefined ? undefined : FAMILY_LEVELS[family];

function pinsAndFunction(was: LogicSpec, offered: LogicSpec, same: boolean): FitnessRemark[] {
  if (was.model && offered.model) return byModel(was.model, offered.model);
  if (same)
    return [
      ok('function', `${offered.number}: the same function`),
      warn(
        'pin-out',
        'pins not judged: one of the two is not in the library; a few numbers differ between families',
      ),
    ];
  if (was.number !== undefined && offered.number !== undefined)
    return [stop('function', `${offered.name} is another function than ${was.name}`)];
  return was.name === offered.name
    ? [ok('function', `${offered.name} as before`)]
    : [warn('function', `function and pins not judged: compare ${offered.name} with ${was.name}`)];
}

/** Pin by pin, then what it does, then how its outputs and inputs are made. */
function byModel(was: ChipModel, offered: ChipModel): FitnessRemark[] {
  if (was.pins.length !== offered.pins.length)
    return [stop('pin-out', `${offered.pins.length} pins are not ${was.pins.length}`)];
  const supply = was.pins.findIndex(
    (pin, i) => ['supply', 'ground'].includes(pin.role) && offered.pins[i]!.role !== pin.role,
  );
  if (supply >= 0)
    return [
      danger(
        'pin-out',
        `pin ${supply + 1} is ${offered.pins[supply]!.name}, and ${was.pins[supply]!.name} lies there: it gets its supply the wrong way`,
      ),
    ];
  const other = was.pins.findIndex(
    (pin, i) => offered.pins[i]!.role !== pin.role && pin.role !== 'none',
  );
  if (other >= 0)
    return [
      stop(
        'pin-out',
        `pin ${other + 1} is ${offered.pins[other]!.name}, not ${was.pins[other]!.name}`,
      ),
    ];
  const names = was.pins.findIndex((pin, i) => offered.pins[i]!.name !== pin.name);
  const sameFunction =
    was.function.join(';') === offered.function.join(';') && !was.blackBox && !offered.blackBox;
  const remarks: FitnessRemark[] = [];
  if (sameFunction && names < 0)
    remarks.push(ok('function', 'the same function'), ok('pin-out', 'the same pins'));
  else if (was.name === offered.name) remarks.push(ok('function', `${offered.name} as before`));
  else if (was.blackBox || offered.blackBox)
    remarks.push(warn('function', 'function not judged: its inside is not in the library'));
  else return [stop('function', `${offered.name} is another function than ${was.name}`)];
  return [...remarks, ...stages(was, offered), ...hysteresis(was, offered)];
}

function stages(was: ChipModel, offered: ChipModel): FitnessRemark[] {
  const at = was.pins.findIndex((pin, i) => pin.stage !== offered.pins[i]!.stage);
  if (at < 0) return [];
  const [before, now] = [was.pins[at]!.stage, offered.pins[at]!.stage];
  return [
    before === 'openCollector'
      ? stop(
          'output-stage',
          'open-collector outputs came off: outputs that push up fight with what shares their line',
        )
      : now === 'openCollector'
        ? stop(
            'output-stage',
            'its outputs are open-collector: without a pull-up they never go to 1',
          )
        : stop('output-stage', 'another kind of output'),
  ];
}

/**
 * Volts that an open-collector output may be pulled up to, by number. Published data sheets, from
 * memory; the others stand what their supply is.
 */
const OPEN_COLLECTOR_VOLT: Readonly<Record<string, number>> = {
  '06': 30,
  '07': 30,
  '16': 15,
  '17': 15,
  '26': 15,
};
const ORDINARY_PULL_UP_VOLT = 5.5;

/** Its outputs must stand the volts that their pull-ups lift them to. */
function openCollectorVolts(offered: LogicSpec, place: Place): FitnessRemark[] {
  const pulled = place.pullUpVolt ?? place.workingVolt;
  const { model, number } = offered;
  if (pulled === undefined || !model?.pins.some(({ stage }) => stage === 'openCollector'))
    return [];
  const most = OPEN_COLLECTOR_VOLT[number ?? ''] ?? ORDINARY_PULL_UP_VOLT;
  if (number === undefined)
    return [warn('output-stage', `whether its outputs stand ${pulled} V is not judged`)];
  return [
    pulled > most
      ? stop('output-stage', `its outputs stand ${most} V, they are pulled up to ${pulled} V`)
      : ok('output-stage', `its outputs stand the ${pulled} V that they are pulled up to`),
  ];
}

function hysteresis(was: ChipModel, offered: ChipModel): FitnessRemark[] {
  const had = was.pins.some(({ schmitt }) => schmitt);
  const has = offered.pins.some(({ schmitt }) => schmitt);
  if (had && !has)
    return [stop('hysteresis', 'Schmitt inputs came off: slow edges make an ordinary input swing')];
  return has && !had
    ? [
        warn(
          'hysteresis',
          'Schmitt inputs switch at other levels: right for slow edges, not where the threshold sets a time',
        ),
      ]
    : [];
}

/** What drives its inputs must be high and low enough for them. */
function levelsIn(
  was: LogicSpec,
  offered: LogicSpec,
  now: FamilyLevels,
  drivers: readonly LogicNeighbour[] | undefined,
): FitnessRemark[] {
  const known = (drivers ?? []).filter(
    ({ family }) => family !== undefined && FAMILY_LEVELS[family],
  );
  // Where nothing is known of what drives it, it is taken to be of the family that came off.
  const around = known.length > 0 ? known : [{ ref: 'what drives it', family: was.family }];
  const bad = around.find(({ family }) => {
    const levels = FAMILY_LEVELS[family!]!;
    return levels.highOut < now.highIn || levels.lowOut > now.lowIn;
  });
  if (bad) {
    const levels = FAMILY_LEVELS[bad.family!]!;
    return [
      stop(
        'levels-in',
        `${bad.ref} (${familyWords(bad.family!)}) gives ${levels.highOut} V for a 1, ${familyWords(offered.family!)} wants ${now.highIn} V: not driven high enough${offered.family === 'HC' ? '; HCT is' : ''}`,
      ),
    ];
  }
  const unknown = drivers === undefined || known.length < drivers.length;
  if (offered.family === was.family) return [ok('levels-in', 'levels as before')];
  return [
    unknown
      ? warn(
          'levels-in',
          `levels at its inputs are right for ${familyWords(was.family!)} around it; what else drives it is not judged`,
        )
      : ok('levels-in', `what drives it gives enough for ${familyWords(offered.family!)}`),
  ];
}

function levelsOut(
  offered: LogicSpec,
  now: FamilyLevels,
  loads: Place['loads'],
  was: LogicSpec,
): FitnessRemark[] {
  const bad = (loads ?? []).find(({ family }) => {
    const levels = family === undefined ? undefined : FAMILY_LEVELS[family];
    return levels && (now.highOut < levels.highIn || now.lowOut > levels.lowIn);
  });
  if (bad)
    return [
      stop(
        'levels-out',
        `${familyWords(offered.family!)} gives ${now.highOut} V for a 1, ${bad.ref} (${familyWords(bad.family!)}) wants ${FAMILY_LEVELS[bad.family!]!.highIn} V`,
      ),
    ];
  const before = levelsOf(was)!;
  if (now.highOut < before.highOut - 0.5 && loads === undefined)
    return [
      warn(
        'levels-out',
        `its 1 is ${now.highOut} V, ${before.highOut} V came off: what it drives is not judged`,
      ),
    ];
  return [ok('levels-out', 'its levels are enough for what it drives')];
}

/** Amperes that its outputs have to sink, where what they drive is known. */
function fanOut(
  was: LogicSpec,
  offered: LogicSpec,
  before: FamilyLevels,
  now: FamilyLevels,
  loads: Place['loads'],
): FitnessRemark {
  const milli = (ampere: number): string => `${Number((1e3 * ampere).toPrecision(2))} mA`;
  if (loads && loads.length > 0) {
    const sums = new Map<string, number>();
    for (const { output, family } of loads)
      sums.set(
        output,
        (sums.get(output) ?? 0) + (FAMILY_LEVELS[family ?? '']?.inputAmpere ?? 1.6e-3),
      );
    const most = Math.max(...sums.values());
    return most > now.sinkAmpere
      ? stop(
          'fan-out',
          `an output has to sink ${milli(most)}, ${familyWords(offered.family!)} sinks ${milli(now.sinkAmpere)}`,
        )
      : ok(
          'fan-out',
          `it sinks ${milli(now.sinkAmpere)}, at most ${milli(most)} are asked of chips; pull-ups not counted`,
        );
  }
  if (now.sinkAmpere >= before.sinkAmpere)
    return ok('fan-out', `it sinks ${milli(now.sinkAmpere)}, no less than before`);
  return warn(
    'fan-out',
    `it sinks ${milli(now.sinkAmpere)}, ${familyWords(was.family!)} ${milli(before.sinkAmpere)}: count what its outputs drive`,
  );
}

function speed(before: FamilyLevels, now: FamilyLevels): FitnessRemark {
  if (now.delayNs > before.delayNs * 1.5)
    return warn(
      'speed',
      `about ${now.delayNs} ns a gate, ${before.delayNs} ns came off: not in a fast path`,
    );
  return now.delayNs < before.delayNs / 2
    ? warn(
        'speed',
        `about ${now.delayNs} ns a gate, ${before.delayNs} ns came off: its steeper edges ring on long tracks`,
      )
    : ok('speed', 'about as fast as before');
}

function socket({ text }: LogicSpec): FitnessRemark {
  if (/\bsingle-?wipe\b/i.test(text))
    return stop(
      'socket',
      'a single-wipe socket is a source of faults itself: turned contacts or none',
    );
  return /\bsocket(ed)?\b/i.test(text)
    ? warn(
        'socket',
        'in a socket only with legs that are long enough: short factory legs do not hold',
      )
    : ok('socket', 'soldered in');
}

/** Judges an amplifier by its pins and what its outputs give. */
export function judgeAmplifier(
  was: AmplifierSpec,
  offered: AmplifierSpec,
): readonly FitnessRemark[] {
  const pins = ({ model }: AmplifierSpec): string =>
    JSON.stringify([model.units, model.positiveSupply, model.negativeSupply]);
  if (was.pins !== offered.pins || pins(was) !== pins(offered))
    return [stop('pin-out', `${offered.name} has other pins than ${was.name}`)];
  if (was.name === offered.name)
    return [ok('pin-out', 'the same pins'), ok('function', `${offered.name} as before`)];
  const [a, b] = [was.model, offered.model];
  return [
    ok('pin-out', 'the same pins'),
    b.limitAmpere < a.limitAmpere
      ? stop('current', `its output gives ${b.limitAmpere} A, ${a.limitAmpere} A came off`)
      : ok('current', 'its output gives as much'),
    b.headroomLowVolt > a.headroomLowVolt + 0.5
      ? stop(
          'output-stage',
          `its output does not come nearer to the negative supply than ${b.headroomLowVolt} V, ${a.headroomLowVolt} V came off`,
        )
      : ok('output-stage', 'its output comes as near to the supplies'),
    warn('speed', 'bandwidth, noise and input current not judged: compare the two data sheets'),
  ];
}
