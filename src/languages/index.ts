import { cpp } from './cpp/index.js';
import { csharp } from './csharp/index.js';
import { go } from './go/index.js';
import { java } from './java/index.js';
import { kotlin } from './kotlin/index.js';
import type { Language } from './language.js';
import { php } from './php/index.js';
import { python } from './python/index.js';
import { rLanguage } from './r/index.js';
import { ruby } from './ruby/index.js';
import { rust } from './rust/index.js';
import { scala } from './scala/index.js';
import { swift } from './swift/index.js';
import { typescript } from './typescript/index.js';

/** Every language, in the order in which they are shown. */
export const languages: readonly Language[] = [
  python,
  typescript,
  go,
  rust,
  java,
  csharp,
  kotlin,
  php,
  ruby,
  rLanguage,
  cpp,
  scala,
  swift,
];
