/** Where data was rescued it may be looked at and handed off, and nothing is changed. */
import type { NextFunction, Request, Response } from 'express';
import { answerProblem } from './answerProblem.js';

/** What changes no document: handing off, and signing in and out. */
const HARMLESS = /^\/api\/(scenes\/[^/]+\/(hand-offs|pictures)|productions\/[^/]+\/hand-offs|jobs\/[^/]+|room\/.+)$/;

export function onlyLooking(why: string): (request: Request, response: Response, next: NextFunction) => void {
  return ({ method, path }, response, next) =>
    method === 'GET' || method === 'HEAD' || HARMLESS.test(path) ? next() : answerProblem(response, 503, 'Only to look at', why);
}
