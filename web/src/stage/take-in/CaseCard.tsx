import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import type { CaseState } from '../../case/use-case';
import { ARCHETYPES } from '@hanzai/data';
import { guessUnitType } from '../../case/unit';
import type { BoardChoice } from '../../case/board-choice';
import { Button } from '../../ui/Button';
import { Notice } from '../../ui/Notice';
import { z } from 'zod';
import { ask, whyNot, withBody } from '../../store/answers';
import { CardForm, cardOf, type CardTyped } from './card-form';
import { CameWithIt, CardFields } from './CardFields';
import style from './TakeInStage.module.css';

const Stored = z.object({ version: z.number().int() });

/**
 * The card of a case: what a person may correct at any time. A change made elsewhere meanwhile is
 * not overwritten.
 */
export function CaseCard({ state, boards }: { state: CaseState; boards: readonly BoardChoice[] }) {
  const { view } = state;
  const { register, handleSubmit, formState, reset, getValues } = useForm<
    CardTyped,
    unknown,
    CardForm
  >({
    resolver: zodResolver(CardForm),
    defaultValues: cardOf(view),
  });
  // The version these fields were filled from. A card that somebody else has stored since is never
  // overwritten by these fields: the server says so.
  const [base, setBase] = useState(view.version);
  const [answer, setAnswer] = useState<{ text: string; good: boolean }>();

  const { errors, isDirty, isSubmitting } = formState;
  const guess = guessUnitType(`${view.unitModel} ${view.title}`);
  const proposal = ARCHETYPES.find(({ name }) => name === guess);

  async function save(card: CardForm): Promise<void> {
    try {
      const stored = await ask(
        `/api/cases/${view.id}`,
        Stored,
        withBody('PATCH', { ...card, version: base }),
      );
      await state.reload();
      reset(getValues());
      setBase(stored.version);
      setAnswer({ text: 'Stored.', good: true });
    } catch (error) {
      setAnswer({ text: whyNot(error), good: false });
    }
  }

  return (
    <form
      className={style.card}
      onSubmit={(event) => void handleSubmit(save)(event)}
      aria-label="Card of the case"
      noValidate
    >
      <h2>Card</h2>
      <CardFields
        register={register}
        errors={errors}
        boards={boards}
        board={view.board ? { id: view.board.id, title: view.board.content.title } : undefined}
        number={view.number}
        proposal={proposal?.title.toLowerCase()}
      />
      <CameWithIt register={register} errors={errors} />
      {answer && (
        <Notice look={answer.good ? 'good' : 'attention'} live>
          {answer.text}
        </Notice>
      )}
      <Button look="main" type="submit" disabled={!isDirty || isSubmitting}>
        Store the card
      </Button>
    </form>
  );
}
