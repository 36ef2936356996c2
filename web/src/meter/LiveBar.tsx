import { useState } from 'react';
import Gauge from 'lucide-react/icons/gauge';
import type { ProposedPoints } from '../case/strip/grammar';
import type { CaseState } from '../case/use-case';
import { KIND_WORDS, valueText } from '../case/wording';
import { Button } from '../ui/Button';
import { ConnectMeter } from './ConnectMeter';
import type { Live } from './use-live';
import style from './Live.module.css';

/** What a meter on the line shows, above the strip; nothing where there is none. */
export function LiveBar({
  live,
  step,
  state,
  asks,
  onAsk,
}: {
  readonly live: Live;
  readonly step: ProposedPoints | undefined;
  readonly state: CaseState;
  /** Whether it is asked how the meter is reached. */
  readonly asks: boolean;
  readonly onAsk: (open: boolean) => void;
}) {
  const [told, setTold] = useState(false);
  const { phase, shown } = live;
  return (
    <section className={phase === 'off' ? undefined : style.bar} aria-label="Live meter">
      {phase !== 'off' && <Gauge size={20} aria-hidden />}
      {phase === 'connecting' && <span role="status">{live.name}: connecting …</span>}
      {phase === 'lost' && (
        <span role="status">
          <b>{live.name} is gone:</b> {live.why}. Nothing was filed of what it did not hold.
        </span>
      )}
      {phase === 'live' && (
        <>
          <b className={style.name}>{live.name}</b>
          <output className={style.value} data-rest={shown?.isAtRest ?? false}>
            {shown ? valueText(shown.kind, shown.value) : '– – –'}
          </output>
          <span className={style.says} role="status">
            {saysOf(live, step)}
          </span>
        </>
      )}
      {phase === 'live' && live.putProbes && (
        <Button onClick={live.putProbes} disabled={!step}>
          Put the probes there
        </Button>
      )}
      {phase === 'live' && shown && !live.latched && (
        <Button look="quiet" onClick={live.take}>
          Take it
        </Button>
      )}
      {phase === 'live' && live.hidden && (
        <Button look="quiet" onClick={() => setTold(!told)}>
          {told ? `On it: ${live.hidden.join(', ') || 'nothing'}` : 'Tell what is wrong with it'}
        </Button>
      )}
      {(phase === 'live' || phase === 'connecting') && (
        <Button look="quiet" onClick={live.disconnect}>
          Disconnect
        </Button>
      )}
      {phase === 'lost' && (
        <Button look="quiet" onClick={() => onAsk(true)}>
          Connect again
        </Button>
      )}
      <ConnectMeter
        state={state}
        open={asks}
        onClose={() => onAsk(false)}
        onConnect={(choice) => {
          setTold(false);
          live.connect(choice);
        }}
      />
    </section>
  );
}

function saysOf(
  { trouble, shown, latched, putProbes }: Live,
  step: ProposedPoints | undefined,
): string {
  if (trouble !== undefined) return trouble;
  if (!step) return 'nothing is asked for now';
  if (latched) return 'held in the line: Space files it';
  if (!shown) return `set to ${KIND_WORDS[step.kind]}`;
  if (shown.isAtRest) return 'at rest. What probes in the air show too is held by Space';
  return putProbes ? 'coming to rest' : `${KIND_WORDS[step.kind]}: coming to rest`;
}
