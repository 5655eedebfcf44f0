import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

const PLATFORM = [
  'window',
  'document',
  'navigator',
  'location',
  'localStorage',
  'sessionStorage',
  'indexedDB',
  'fetch',
  'self',
  'postMessage',
  'Worker',
  'HTMLElement',
  'requestAnimationFrame',
  'process',
  'Buffer',
  'require',
  '__dirname',
]
const OF_A_PLATFORM = [
  'vue',
  'vue-router',
  'pinia',
  'nuxt',
  'nitropack',
  'h3',
  'echarts',
  'drizzle-orm',
  ...['libsql', 'headlessui', 'vueuse', 'lucide', 'nuxt', 'floating-ui', 'tanstack'].map(scope => `@${scope}`),
].join('|')
const NOT_PURE = String.raw`^(${OF_A_PLATFORM})(/|$)|^[#~]|^@/|^node:|\.vue$|(^|/)(app|server|cli|demo)/`

export default ts.config(
  {
    ignores: [
      '**/.nuxt/**',
      '**/.output/**',
      '**/dist/**',
      '**/test-results/**',
      'playwright-report/**',
      'server/db/migrations/**',
      'data/**',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: ['.vue'] } } },
  {
    files: ['**/*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
        setInterval: 'readonly',
        clearInterval: 'readonly',
        URL: 'readonly',
        performance: 'readonly',
        Buffer: 'readonly',
      },
    },
  },
  {
    files: ['bench/**/*.mjs', 'scripts/**/*.mjs'],
    languageOptions: {
      globals: {
        DataTransfer: 'readonly',
        ClipboardEvent: 'readonly',
        window: 'readonly',
        document: 'readonly',
        requestAnimationFrame: 'readonly',
        KeyboardEvent: 'readonly',
      },
    },
  },
  // TypeScript checks names, those that Nuxt imports by itself included.
  {
    files: ['**/*.{ts,vue}'],
    rules: {
      'no-undef': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'vue/require-default-prop': 'off',
    },
  },
  {
    name: 'no promise is forgotten',
    files: ['{app,server,cli/src,demo,e2e}/**/*.ts'],
    languageOptions: {
      parserOptions: {
        project: ['.nuxt/tsconfig.app.json', '.nuxt/tsconfig.server.json', 'cli/tsconfig.json', 'e2e/tsconfig.json'],
      },
    },
    rules: {
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
      '@typescript-eslint/await-thenable': 'error',
    },
  },
  { files: ['app/{pages,layouts}/**/*.vue', 'app/*.vue'], rules: { 'vue/multi-word-component-names': 'off' } },
  {
    name: 'core is pure',
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    languageOptions: { globals: Object.fromEntries(PLATFORM.map(g => [g, 'readonly'])) },
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            { regex: NOT_PURE, message: 'The core stays pure TypeScript: no interface, server, Node or DOM.' },
          ],
        },
      ],
      'no-restricted-globals': [
        'error',
        ...PLATFORM.map(name => ({ name, message: 'The core touches neither DOM nor Node.' })),
      ],
      'no-restricted-syntax': [
        'error',
        { selector: 'ImportExpression', message: 'No dynamic import in the core.' },
        { selector: 'MemberExpression[object.name="globalThis"]', message: 'No globalThis in the core.' },
        { selector: 'MetaProperty', message: 'No import.meta in the core.' },
      ],
    },
  },
  {
    name: 'the interface knows the server by its types only',
    files: ['app/**/*.{ts,vue}'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex: '(^|/)server/|^node:|^@libsql|^drizzle-orm',
              message: 'The interface speaks to the server over HTTP.',
              allowTypeImports: true,
            },
          ],
        },
      ],
    },
  },
  {
    name: 'the server knows nothing of the interface',
    files: ['server/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ regex: '(^|/)app/|^~/|^vue|^pinia|^echarts', message: 'The server does not draw.' }] },
      ],
    },
  },
  {
    name: 'SQL lives in server/db',
    files: ['server/{api,routes,reports,middleware}/**/*.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        { patterns: [{ regex: '^@libsql', message: 'Only server/db opens connections.' }] },
      ],
    },
  },
  prettier,
  // What the formatter cannot break is broken by hand: no line hides three decisions.
  {
    name: 'lines end at 120 columns',
    files: ['**/*.{ts,mjs}'],
    ignores: ['core/src/kernels/binary.ts', 'core/src/fixtures/written.ts', 'app/types/routes.ts'],
    rules: { 'max-len': ['error', { code: 120, ignoreRegExpLiterals: true }] },
  },
  { files: ['**/*.vue'], rules: { 'vue/max-len': ['error', { code: 120, template: 120 }] } },
)
