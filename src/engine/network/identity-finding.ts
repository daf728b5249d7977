import { identityReadings, identityRemark, whatItSays, type CompiledDriver } from '../../core/driver';
import type { IdentityFinding } from '../../core/diagnosis';
import type { Scalar } from '../../core/result';
import type { Fresh } from './test-target';

/** What a device says of itself, set against its driver. */
export function identityOf(
  { document }: CompiledDriver,
  set: Readonly<Record<string, Scalar>>,
  fresh: Fresh,
): Omit<IdentityFinding, 'driversForModel' | 'helpersMissing'> {
  const { identity } = document;
  const { model, firmware } = whatItSays(document, fresh);
  const modelOnly = { ...document, identity: { ...identity, firmware: undefined } };
  const remark = identityReadings(document).length > 0 ? identityRemark(document, fresh) : undefined;
  const modelRemark = identityRemark(modelOnly, fresh);
  const options = Object.entries(identity.options ?? {}).flatMap(([name, key]) => {
    const says = fresh(key);
    const option = document.options[name];
    const is = set[name] ?? option?.default;
    return option && says !== is && (typeof says === 'number' || typeof says === 'string')
      ? [{ name, title: option.title, says }]
      : [];
  });
  const ahead = identity.clock === undefined ? undefined : fresh(identity.clock);
  return {
    clockAhead: typeof ahead === 'number' ? ahead : undefined,
    model,
    firmware,
    knownModels: identity.models,
    knownFirmwares: identity.firmwares,
    modelKnown: modelRemark === undefined,
    firmwareKnown: remark === undefined || modelRemark !== undefined,
    options,
  };
}
