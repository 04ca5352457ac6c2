import type { Stage } from '../../core/lesson/names'

/** A thing on the screen, and what it is for. */
type Explained = readonly [what: string, sentence: string]

/** What is on the screen of each stage, a sentence each, for the sheet under `?`. */
export const STAGE_HELP: Readonly<Record<Stage, readonly Explained[]>> = {
  build: [
    ['Board', 'The environment as it is written; what lies under the pointer is read out below it.'],
    [
      'Side column',
      'What the environment is made of: tools of a grid, arms of a bandit, rows of a table, size and rules.',
    ],
    ['Knobs', 'Numbers of the environment with a slider; whatever depends on one follows at once.'],
    ['Show the plan', 'Lays the exact values and the best actions over the board while you change it.'],
    [
      'Discount, step limit',
      'How much a later reward counts, and after how many steps an episode is cut off.',
    ],
  ],
  check: [
    [
      'Findings',
      'What is wrong or surprising in the model, proved from all its states, each with the shortest way to it.',
    ],
    ['By hand', 'You take the actions yourself and see beforehand what each can come to, with its chances.'],
    ['Expectations', 'What must always hold, written down once and looked at after every change.'],
    ['Timeline', 'The steps of a finding or of a walk by hand; the arrow keys and the dots go through them.'],
  ],
  plan: [
    [
      'Method',
      'How the values are computed: by value iteration, policy iteration, a linear solve, and others.',
    ],
    ['Numbers and needles', 'On the board the value of each state, and the actions the policy picks there.'],
    ['Timeline', 'One bar a sweep, as high as its largest change; any of them can be gone back to.'],
    ['Working', 'The selected number taken apart: each outcome, its chance, its reward, what comes after.'],
    ['Beside', 'A second method on the same environment, sweep by sweep next to the first.'],
  ],
  learn: [
    ['Settings', 'The learning method with its learning rate, its exploration and how they fall.'],
    ['Timeline', 'The return of every episode; the play head goes to any step, forwards and back.'],
    ['Step, play, to the end', 'One update at a time, at the speed of the slider, or as fast as it goes.'],
    ['Working', 'The last update taken apart: the old number, its target, the difference, the new number.'],
    ['Findings', 'Why a run does not learn, with the proof, and a change that was tried and helps.'],
    ['Seeds', 'The same run with other random numbers: whether it was luck.'],
  ],
  compare: [
    [
      'Contestants',
      'Methods, settings or policies that are to be compared, each with a name from what differs.',
    ],
    ['Runs', 'How many seeds each is run with; the same seeds for all, so that differences are not luck.'],
    ['Curve', 'The mean over the runs, with a band that says how sure it is.'],
    ['Verdicts', 'Which is better by the score chosen, with the interval of the difference.'],
    ['Sweep', 'One or two settings tried at several values, as a curve or a map.'],
  ],
}

/** What is there in every stage. */
export const COMMON_HELP: readonly Explained[] = [
  [
    'Stages',
    'Build, check, plan, learn and compare: five ways to look at one environment, under keys 1 to 5.',
  ],
  [
    'Board, Table, Text …',
    'Other views of what is shown, above the board, with the layers that lie over it.',
  ],
  ['Share', 'A short link to exactly this view, or a view of a lesson.'],
  [
    'Versions, Export',
    'Earlier states of the environment; files, tables, pictures and a notebook to take away.',
  ],
]
