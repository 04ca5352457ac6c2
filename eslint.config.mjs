import next from 'eslint-config-next'
import nextTypeScript from 'eslint-config-next/typescript'
import prettier from 'eslint-config-prettier'

const noBarrels = { selector: 'ExportAllDeclaration', message: 'Export by name; import the file itself.' }
const noStrayWorkers = {
  selector: 'NewExpression[callee.name="Worker"]',
  message:
    'Start workers in src/hosts/browser/launcher.ts only: the layer rules do not see worker addresses.',
}

const rules = [
  ...next,
  ...nextTypeScript,
  prettier,
  {
    files: ['src/**/*.{ts,tsx}'],
    rules: {
      // What begins with a line is there for those who override, or is left out on purpose.
      '@typescript-eslint/no-unused-vars': [
        'warn',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true },
      ],
      'no-restricted-syntax': ['error', noBarrels, noStrayWorkers],
      '@typescript-eslint/consistent-type-imports': 'error',
    },
  },
  { files: ['src/hosts/browser/launcher.ts'], rules: { 'no-restricted-syntax': ['error', noBarrels] } },
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Take a RandomStream as an argument.' },
        {
          object: 'Math',
          property: 'exp',
          message: 'Use core/random/exponential: the same bits everywhere.',
        },
        { object: 'Date', property: 'now', message: 'The core knows no clock; take one as an argument.' },
      ],
    },
  },
  {
    ignores: [
      '.next/**',
      'next-env.d.ts',
      'drizzle/**',
      'release/**',
      'test-results/**',
      'coverage/**',
      '.tmp/**',
      '.workers/**',
    ],
  },
]

export default rules
