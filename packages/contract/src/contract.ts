import type { AnyEndpoint } from './endpoint';
import { archives } from './endpoints/archives';
import { board } from './endpoints/board';
import { calibrations } from './endpoints/calibrations';
import { boardTypes } from './endpoints/boardTypes';
import { builds } from './endpoints/builds';
import { costs } from './endpoints/costs';
import { firstPower } from './endpoints/firstPower';
import { descriptions } from './endpoints/descriptions';
import { fleet } from './endpoints/fleet';
import { jobs } from './endpoints/jobs';
import { keeping } from './endpoints/kept';
import { machines } from './endpoints/machines';
import { photos } from './endpoints/photos';
import { record } from './endpoints/record';

/** Every way into the server, by the name it has in the client. */
export const CONTRACT = {
  ...machines,
  ...builds,
  ...costs,
  ...firstPower,
  ...board,
  ...jobs,
  ...keeping,
  ...photos,
  ...calibrations,
  ...record,
  ...fleet,
  ...boardTypes,
  ...descriptions,
  ...archives,
} satisfies Record<string, AnyEndpoint>;

export type Contract = typeof CONTRACT;
export type EndpointName = keyof Contract;
