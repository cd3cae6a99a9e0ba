import type { AnyEndpoint } from './endpoint';
import { board } from './endpoints/board';
import { boardTypes } from './endpoints/boardTypes';
import { builds } from './endpoints/builds';
import { jobs } from './endpoints/jobs';
import { keeping } from './endpoints/kept';
import { machines } from './endpoints/machines';
import { photos } from './endpoints/photos';

/** Every way into the server, by the name it has in the client. */
export const CONTRACT = {
  ...machines,
  ...builds,
  ...board,
  ...jobs,
  ...keeping,
  ...photos,
  ...boardTypes,
} satisfies Record<string, AnyEndpoint>;

export type Contract = typeof CONTRACT;
export type EndpointName = keyof Contract;
