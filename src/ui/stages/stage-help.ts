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
      'By hand',
      'You take the actions yourself; “what can happen” shows beforehand where each can lead, with its chances.',
    ],
    [
      'What was found',
      'What is wrong or surprising in the model, proved from all its states, each with the shortest way to it.',
    ],
    ['Expectations', 'What must always hold, written down once and looked at after every change.'],
    ['Hold a policy', 'Episodes of one policy without learning: what it earns.'],
    ['Steps', 'Below the board, step by step, the walk by hand or the way to a finding.'],
  ],
  plan: [
    [
      'Method',
      'How the values are computed: by value iteration, policy iteration, a linear solve, and others.',
    ],
    [
      'Values, Policy',
      'On the board the value of each state, and needles to the actions that the policy picks there.',
    ],
    ['Timeline', 'The largest change of a value in each sweep; the play head goes back to any of them.'],
    [
      'Working',
      'The value of the selected state taken apart: each outcome, its chance, its reward, what comes after.',
    ],
    [
      'What if',
      'A plan is held, and compared with the one after a change of the environment or the discount.',
    ],
    ['Side by side', 'A second method on the same environment, beside the first.'],
  ],
  learn: [
    ['Settings', 'The learning method with its learning rate, its exploration and how they fall.'],
    ['Timeline', 'The return of every episode; the play head goes to any step, forwards and back.'],
    ['Buttons', 'One update or one episode at a time, or playing at the speed of the slider.'],
    ['Working', 'The last update taken apart: the old number, its target, the difference, the new number.'],
    ['Findings', 'Why a run does not learn, with the proof, and a change that was tried and helps.'],
    ['Seeds', 'The same run with other random numbers: whether it was luck.'],
  ],
  compare: [
    ['Contestants', 'Methods, settings or policies that are compared, each named by what differs.'],
    ['Runs', 'How many seeds each contestant is run with, here or as a job of the server.'],
    ['Picture', 'The mean over the runs with a band, box plots, a table, or a map of two settings.'],
    ['Was it luck?', 'Which contestant is better by the score chosen, with the interval of the difference.'],
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
