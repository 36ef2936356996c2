import { conductance, type Element } from './element';
import type { DeviceKind, FaultMode } from './kind';
import { SEVERITY } from './severity';
import { openMode, parallelMode } from './shared-modes';

export const diode: DeviceKind<'diode'> = {
  kind: 'diode',
  elements: (part) => {
    const [anode, cathode] = part.pins as [string, string];
    const bulk = part.model.seriesResistanceOhm;
    if (bulk === 0) return [{ type: 'junction', anode, cathode, model: part.model }];
    const inner = `${part.ref}#bulk`;
    return [
      conductance(anode, inner, bulk),
      { type: 'junction', anode: inner, cathode, model: part.model },
    ];
  },
  modes: (part) => [
    openMode(`${part.ref}#open`),
    parallelMode('short', part.pins[0]!, part.pins[1]!),
    parallelMode('leaky', part.pins[0]!, part.pins[1]!),
  ],
};

export const transistor: DeviceKind<'transistor'> = {
  kind: 'transistor',
  openPin: (pin) => ['open-c', 'open-b', 'open-e'][pin],
  elements: (part) => {
    const [collector, base, emitter] = part.pins as [string, string, string];
    return [{ type: 'transistor', collector, base, emitter, model: part.model }];
  },
  modes: (part) => {
    const [collector, base, emitter] = part.pins as [string, string, string];
    return [
      openLead('open-b', 'base', part.ref),
      openLead('open-c', 'collector', part.ref),
      openLead('open-e', 'emitter', part.ref),
      shortLeads('short-be', base, emitter),
      shortLeads('short-bc', base, collector),
      shortLeads('short-ce', collector, emitter),
    ];
  },
};

function openLead(name: string, lead: 'base' | 'collector' | 'emitter', ref: string): FaultMode {
  const inner = `${ref}#${lead}`;
  return {
    name,
    effect: 'open',
    severity: SEVERITY.open,
    changesDc: true,
    change: (healthy, ohm) =>
      healthy.flatMap((e): Element[] =>
        e.type === 'transistor' ? [{ ...e, [lead]: inner }, conductance(e[lead], inner, ohm)] : [e],
      ),
  };
}

function shortLeads(name: string, a: string, b: string): FaultMode {
  return {
    name,
    effect: 'short',
    severity: SEVERITY.short,
    changesDc: true,
    change: (healthy, ohm) => [...healthy, conductance(a, b, ohm)],
  };
}
