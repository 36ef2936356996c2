/** What the simulated bench answers when it is asked who it is: maker and model. */
export const SIMULATED = { maker: 'Hanzai', model: 'simulated bench' } as const;

/** Its name as it stands beside a reading. */
export const SIMULATED_NAME = `${SIMULATED.maker} ${SIMULATED.model}`;
