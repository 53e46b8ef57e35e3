/** Bodies of JSON, of a size and a depth that nobody is kept waiting for. */
import express, { type RequestHandler } from 'express';
import { DEEPEST, jsonDepth } from '../../core/document/json-text.ts';
import { RequestError } from '../errors.ts';

export const jsonBody = (): RequestHandler =>
  express.json({
    limit: '1mb',
    verify: (_request, _response, bytes: Buffer) => {
      if (jsonDepth(bytes.toString('latin1')) > DEEPEST)
        throw new RequestError(400, `The request nests deeper than ${DEEPEST} levels.`);
    },
  });
