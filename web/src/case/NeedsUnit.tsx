import { ButtonLink } from '../ui/Button';
import { Notice } from '../ui/Notice';

/** What stands where the kind of unit has to be known first. */
export function NeedsUnit({ number, what }: { number: number; what: string }) {
  return (
    <Notice look="attention" title="Which kind of unit?">
      {what} goes by the kind of unit: flexible-disk unit, optical-disc reader, tape transport,
      stepper carriage or any powered board.{' '}
      <ButtonLink look="quiet" href={`/case/${number}/take-in#card-type`}>
        Choose it on the card
      </ButtonLink>
    </Notice>
  );
}
