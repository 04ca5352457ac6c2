import type { AnyCompiler } from '../kinds/compiler-of'
import type { Compiled, EnvironmentDocument } from '../kinds/kinds'
import { PAGE_COMPILERS } from '../kinds/page-compilers'

/** The compiler of a document's kind, where a page has it; undefined for kinds that are compiled in workers alone. */
function pageCompilerOf({ kind }: EnvironmentDocument): AnyCompiler | undefined {
  return kind in PAGE_COMPILERS
    ? (PAGE_COMPILERS[kind as keyof typeof PAGE_COMPILERS] as unknown as AnyCompiler)
    : undefined
}

/** Whether a page can compile documents of this kind itself. */
export function compilesOnPage(document: EnvironmentDocument): boolean {
  return pageCompilerOf(document) !== undefined
}

/**
 * The model of a document of a kind that pages compile themselves.
 * @throws ProblemError as compileEnvironment
 */
export function compileOnPage(document: EnvironmentDocument): Compiled {
  const compiler = pageCompilerOf(document)
  if (!compiler) throw new Error(`Pages do not compile a ${document.kind} themselves.`)
  const compilation = compiler.compile(document)
  while (!compilation.advance(100_000));
  return compilation.finish()
}
