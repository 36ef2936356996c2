import { figure, NoAnswer, number, text, type Calculator } from './calculator';

/** One pin of a plug: its number or name, and what it carries. */
interface Pin {
  readonly pin: string;
  readonly signal: string;
}

function pinsOf(list: string): readonly Pin[] {
  const pins = list
    .split(/\n|;/)
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => {
      const [, pin = '', signal = ''] = /^(\S+)\s+(.+)$/.exec(line) ?? [];
      if (pin === '') throw new NoAnswer(`"${line}": a pin and its signal, such as 1 GND`);
      return { pin: pin.toUpperCase(), signal: signal.trim().toUpperCase() };
    });
  const twice = pins.find(({ pin }, i) => pins.findIndex((one) => one.pin === pin) !== i);
  if (twice) throw new NoAnswer(`pin ${twice.pin} stands there twice`);
  return pins;
}

const isGround = (signal: string): boolean => /^(GND|GROUND|0V|COM|CHASSIS|SHIELD)/.test(signal);
const isSupply = (signal: string): boolean =>
  !isGround(signal) && /^[+-]?\d+(\.\d+)?V?$|^V(CC|DD|SS|EE|M)\b|^(P|N)\d+$|^[+-]\d/.test(signal);
const isNothing = (signal: string): boolean => /^(NC|N\/C|-|KEY|OPEN)$/.test(signal);

const WIRING: Calculator = {
  name: 'adapter',
  title: 'Adapter from two pin-outs',
  group: 'bench',
  formula: 'like signals are linked; what one side alone has is cut',
  source: 'common practice, no published source',
  caution:
    'A supply on a signal or ground pin ends the unit. Before it is plugged in for the first time: ohms from every supply to ground, volts with nothing attached. Follow local codes; mains work only if you are qualified.',
  fields: [
    {
      kind: 'words',
      name: 'unit',
      label: 'Unit: a pin and its signal a line',
      example: '1 GND\n2 CLK\n3 DATA\n4 +5V',
      lines: true,
    },
    {
      kind: 'words',
      name: 'host',
      label: 'Host: the same',
      example: '1 +5V\n2 DATA\n3 CLK\n4 GND',
      lines: true,
    },
  ],
  reckon: (v) => {
    const [unit, host] = [pinsOf(v.words('unit')), pinsOf(v.words('host'))];
    const links: string[] = [];
    const cuts: string[] = [];
    const dangers: string[] = [];
    for (const { pin, signal } of unit) {
      if (isNothing(signal)) continue;
      const same = host.filter(
        (one) => one.signal === signal || (isGround(one.signal) && isGround(signal)),
      );
      if (same.length === 0) cuts.push(`${pin} ${signal}: the host has none`);
      else links.push(`${pin} to ${same.map((one) => one.pin).join(' and ')} (${signal})`);
      const straight = host.find((one) => one.pin === pin);
      if (straight && isSupply(straight.signal) && straight.signal !== signal && !isNothing(signal))
        dangers.push(
          `straight through, ${straight.signal} of the host comes onto ${signal} (pin ${pin})`,
        );
      if (
        straight &&
        isSupply(signal) &&
        straight.signal !== signal &&
        !isNothing(straight.signal) &&
        !isSupply(straight.signal)
      )
        dangers.push(
          `straight through, ${signal} of the unit meets ${straight.signal} (pin ${pin})`,
        );
    }
    for (const { pin, signal } of host)
      if (
        !isNothing(signal) &&
        !unit.some((one) => one.signal === signal || (isGround(one.signal) && isGround(signal)))
      )
        cuts.push(`${pin} ${signal} of the host: the unit has none`);
    const grounds = unit.filter(({ signal }) => isGround(signal)).map(({ pin }) => pin);
    return [
      text('links', 'link', links.join('; ') || 'nothing'),
      text('cuts', 'leave open', cuts.join('; ') || 'nothing'),
      text('dangers', 'a straight cable', dangers.join('; ') || 'does no harm by these lists'),
      text(
        'first',
        'measure first',
        grounds.length === 0
          ? 'no ground is named on the unit: find it before anything else'
          : `unit, pin ${grounds.join(' and ')}: to its chassis and to the minus of its largest capacitor; then every supply to it, ohms, power off`,
      ),
    ];
  },
  say: (_, r) =>
    /does no harm/.test(r.text('dangers'))
      ? `Links: ${r.text('links')}.`
      : `Never plug them straight: ${r.text('dangers')}.`,
};

const DILUTION: Calculator = {
  name: 'peroxide',
  title: 'Peroxide: dilution and daylight',
  group: 'bench',
  formula: 'V₁ c₁ = V₂ c₂',
  source: 'dilution: any textbook; strengths and hours: common practice, no published source',
  caution:
    'Peroxide burns skin and eyes: gloves, goggles, air. Never sealed: it makes gas. Water first, peroxide into it. Metal and labels are kept out.',
  fields: [
    figure('strong', 'What there is', '%', '12%', { least: 0.1, most: 35 }),
    figure('wanted', 'Wanted', '%', '6%', { least: 0.1, most: 12 }),
    figure('litres', 'Litres wanted', '', '2', { least: 0.01, most: 100 }),
    figure('dayHours', 'Hours of sun a day', '', '5', { least: 0.5, most: 18 }),
    figure('need', 'Hours of sun that it needs', '', '12', { least: 1, most: 200 }),
  ],
  reckon: (v) => {
    const [strong, wanted, litres] = [v.figure('strong'), v.figure('wanted'), v.figure('litres')];
    if (wanted > strong) throw new NoAnswer('nothing gets stronger by water');
    const take = (litres * wanted) / strong;
    return [
      number('take', 'litres of what there is', take),
      number('water', 'litres of water', litres - take),
      number('days', 'days', Math.ceil(v.figure('need') / v.figure('dayHours') - 1e-9), 'n'),
    ];
  },
  say: (_, r) =>
    `${r.text('water')} l of water, then ${r.text('take')} l of peroxide into it; about ${r.text('days')} days. Look at it every few hours: streaks do not go back.`,
};

export const BENCH: readonly Calculator[] = [DILUTION, WIRING];
