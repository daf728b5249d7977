'use client';

import { addRule, firstTest } from '../../core/page';
import { drivenBy, meaningWords, type ControlRecord, type LampRule, type Meaning } from '../../core/show';
import { useReadingChoices } from '../fields';
import { Fold, Select } from '../kit';
import { RuleFields } from './rule-fields';
import { TriedValues } from './tried-values';
import { useVerbs } from './verbs';

interface Props {
  readonly control: ControlRecord;
  readonly name: string;
}

const meanings = Object.entries(meaningWords) as [Meaning, string][];
/** What a rule can do besides lighting a lamp, as it begins. */
const others = {
  label: { title: 'another label', effect: (): Partial<LampRule> => ({ label: [{ text: 'New label' }] }) },
  bars: { title: 'bar the control', effect: (): Partial<LampRule> => ({ bars: true }) },
} as const;

/** What a control shows by rules, in order: of those that say something about the same, the first that holds decides. */
export function LampFields({ control, name }: Props) {
  const verbs = useVerbs();
  const choices = useReadingChoices();
  const { lamps } = control.data;
  const what = `Lamp of ${name}`;
  const add = (typed: string) => {
    const device = drivenBy(control.data)[0] ?? choices.devices[0]?.id ?? '';
    const test = firstTest(choices, device, control.data);
    if (!test)
      return verbs.say('The rig has nothing that reports anything yet: a lamp is about what a device reports.', true);
    const effect = typed === 'label' || typed === 'bars' ? others[typed].effect() : { show: typed as Meaning };
    verbs.change(control, (data) => addRule(data, { ...effect, when: test }), what);
  };
  return (
    <Fold name="Lamp">
      {lamps.map((rule, index) => (
        <RuleFields key={index} control={control} rule={rule} index={index} what={what} />
      ))}
      <Select
        label={lamps.length === 0 ? 'Lights' : 'Otherwise it lights'}
        value={undefined}
        placeholder={lamps.length === 0 ? 'never' : 'Add a rule …'}
        options={[
          ...meanings.map(([value, word]) => ({ value, title: word.toLowerCase() })),
          ...Object.entries(others).map(([value, { title }]) => ({ value, title, group: 'or shows' })),
        ]}
        onChoose={add}
      />
      {lamps.length > 0 && <TriedValues control={control} />}
    </Fold>
  );
}
