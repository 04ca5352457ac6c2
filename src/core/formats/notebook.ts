import type { EnvironmentDocument } from '../kinds/kinds'
import { fileName } from './file-name'
import { NUMBERS } from './npz'

/**
 * A notebook (nbformat 4.5) that needs numpy, and matplotlib to draw: it loads the arrays of a .npz file, redoes value iteration
 * with them, compares, and draws. The .npz file is to lie beside it, under the name it is exported with.
 */
export function writeNotebook({ name, note }: Pick<EnvironmentDocument, 'name' | 'note'>): string {
  const cells = [
    markdown(`# ${name}`, ...(note ? ['', note] : [])),
    code(
      'import numpy as np',
      '',
      `arrays = np.load(${JSON.stringify(fileName(name, NUMBERS))})`,
      'states, actions = arrays["states"], arrays["actions"]',
      'row_state, row_action = arrays["row_state"], arrays["row_action"]',
      'outcome_row, outcome_state = arrays["outcome_row"], arrays["outcome_state"]',
      'probability, reward = arrays["outcome_probability"], arrays["outcome_reward"]',
      '# Outcomes after which time has passed by itself count less.',
      'passed = arrays["outcome_discount"]',
      'ending = arrays["ending"] == 1',
      'discount = float(arrays["discount"][0])',
      'print(len(states), "states,", len(row_state), "pairs of state and action,", len(outcome_state), "outcomes")',
    ),
    markdown(
      'One sweep of value iteration asks in every state what the best action is worth, by the values there are:',
      '',
      "$$V(s) \\leftarrow \\max_a \\sum_{s'} p(s' \\mid s, a)\\,[\\,r + \\gamma V(s')\\,]$$",
    ),
    code(
      'def action_values(values):',
      '    ahead = probability * (reward + discount * passed * values[outcome_state])',
      '    return np.bincount(outcome_row, weights=ahead, minlength=len(row_state))',
      '',
      '',
      'def sweep(values):',
      '    best = np.full(len(states), -np.inf)',
      '    np.maximum.at(best, row_state, action_values(values))',
      '    return np.where(ending, 0.0, best)',
      '',
      '',
      'def value_iteration(tolerance=1e-12, most=100_000):',
      '    values, changes = np.zeros(len(states)), []',
      '    while len(changes) < most and (not changes or changes[-1] > tolerance):',
      '        after = sweep(values)',
      '        changes.append(float(np.max(np.abs(after - values))))',
      '        values = after',
      '    return values, changes',
      '',
      '',
      'values, changes = value_iteration()',
      'start = float(np.dot(arrays["start_probability"], values[arrays["start_state"]]))',
      'print("after", len(changes), "sweeps the start is worth", round(start, 6))',
    ),
    code(
      'if "values" in arrays.files:',
      '    difference = float(np.max(np.abs(arrays["values"] - values)))',
      '    print("largest difference to the values in the file:", difference)',
      'best = {}',
      'for state, action, worth in zip(row_state, row_action, action_values(values)):',
      '    if state not in best or worth > best[state][1]:',
      '        best[state] = (actions[action], worth)',
      'for state in list(best)[:10]:',
      '    print(states[state], "->", best[state][0], round(float(best[state][1]), 4))',
    ),
    code(
      'import matplotlib.pyplot as plt',
      '',
      'figure, axes = plt.subplots(1, 2, figsize=(11, 3.5))',
      'axes[0].semilogy(range(1, len(changes) + 1), np.maximum(changes, 1e-16))',
      'axes[0].set(xlabel="sweep", ylabel="largest change of a value")',
      'if "curve_return" in arrays.files:',
      '    axes[1].plot(arrays["curve_episode"], arrays["curve_return"])',
      '    axes[1].set(xlabel="episode", ylabel="mean return of the last episodes")',
      'else:',
      '    axes[1].bar(range(len(values)), values)',
      '    axes[1].set(xlabel="state", ylabel="value")',
      'plt.tight_layout()',
      'plt.show()',
    ),
  ]
  return (
    JSON.stringify(
      {
        cells: cells.map((cell, i) => ({ id: `cell-${i + 1}`, ...cell })),
        metadata: {
          kernelspec: { display_name: 'Python 3', language: 'python', name: 'python3' },
          language_info: { name: 'python' },
        },
        nbformat: 4,
        nbformat_minor: 5,
      },
      null,
      1,
    ) + '\n'
  )
}

/** Lines as notebooks keep them: each with its line feed, but the last. */
function source(lines: readonly string[]): string[] {
  return lines.map((line, i) => (i < lines.length - 1 ? `${line}\n` : line))
}

function markdown(...lines: string[]) {
  return { cell_type: 'markdown', metadata: {}, source: source(lines) } as const
}

function code(...lines: string[]) {
  return {
    cell_type: 'code',
    execution_count: null,
    metadata: {},
    outputs: [],
    source: source(lines),
  } as const
}
