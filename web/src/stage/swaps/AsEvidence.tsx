import { useState } from 'react';
import { Refused } from '../../form/EntryForm';
import { Button } from '../../ui/Button';
import { Actions } from '../../ui/FormRow';
import { Small } from '../../ui/Words';

/** What a comparison of figures came to. */
export interface Compared {
  readonly good: boolean;
  readonly words: string;
}

/** Files a comparison as evidence; once for each thing that it came to. */
export function AsEvidence({
  found,
  onFile,
}: {
  found: Compared;
  /** Why it was refused; undefined where it was filed. */
  onFile: (found: Compared) => string | undefined;
}) {
  const [filed, setFiled] = useState<string>();
  const [refusal, setRefusal] = useState<string>();
  return (
    <>
      <Actions>
        <Button
          disabled={filed === found.words}
          onClick={() => {
            const why = onFile(found);
            setRefusal(why);
            if (why === undefined) setFiled(found.words);
          }}
        >
          {filed === found.words ? 'Filed' : 'Take it as evidence'}
        </Button>
      </Actions>
      <Small>
        It speaks of settings and wiring. What is worn, dirty or torn it does not see: where it all
        goes together, little is acquitted.
      </Small>
      <Refused words={refusal} />
    </>
  );
}
