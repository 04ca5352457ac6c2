import { kindOf, type EnvironmentDocument } from '../kinds/kinds'
import type { Model } from '../model/model'
import { compileOnPage } from './page-compile'

/** The document that one run meets: what is written, or a problem of its own. */
export function documentOfRun(document: EnvironmentDocument, seed: number, run: number): EnvironmentDocument {
  return kindOf(document).drawnFor?.(document, seed, run) ?? document
}

/** Whether every run meets a problem of its own. */
export function isDrawnAnew(document: EnvironmentDocument): boolean {
  return documentOfRun(document, 0, 0) !== document
}

/** The model that one run meets; kinds whose runs meet problems of their own are small. @param written  that of the document itself */
export function modelOfRun(document: EnvironmentDocument, written: Model, seed: number, run: number): Model {
  const drawn = documentOfRun(document, seed, run)
  return drawn === document ? written : compileOnPage(drawn).model
}
