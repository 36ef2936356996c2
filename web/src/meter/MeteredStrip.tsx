import { useState, type ComponentProps } from 'react';
import { Strip } from '../case/strip/Strip';
import { LiveBar } from './LiveBar';
import { useLive } from './use-live';

type StripProps = ComponentProps<typeof Strip>;

/** The reading line with a meter on it: what it shows above, what it holds in the line. */
export function MeteredStrip(props: Omit<StripProps, 'latched' | 'onTake' | 'onMeter'>) {
  const [step] = props.list ?? [];
  const live = useLive(step);
  const [asks, setAsks] = useState(false);
  return (
    <>
      <LiveBar live={live} step={step} state={props.state} asks={asks} onAsk={setAsks} />
      <Strip
        {...props}
        latched={live.latched}
        onTake={live.shown && live.take}
        onMeter={live.phase === 'off' && !props.state.practice ? () => setAsks(true) : undefined}
      />
    </>
  );
}
