import type { TypeModel } from '../../core/model/types.js';
import { identifier, pascalCasing, screamingCase, snakeCase, type Casing } from '../kit/names.js';
import type { EmitOptions } from '../language.js';

/** Constants must begin with a capital letter; scripts without capitals get a Latin one in front. */
function constant(casing: Casing): Casing {
  return {
    ...casing,
    join: (words) => {
      const name = casing.join(words);
      return name === '' || /^[\p{Lu}\p{Nd}]/u.test(name) ? name : `X${name}`;
    },
  };
}

export const typeCase = constant(pascalCasing);
export const wordCase = constant(screamingCase);

/** What the support is called, and what it names of Ruby. */
export const reservedTypes = new Set(
  'Decimal InvalidPayload KeepsOthers Record Shapes Tagged Type TypeAlias ArgumentError Array BasicObject Class Date Float Hash Integer JSON Kernel Module NoMethodError Numeric Object Rational Regexp String Struct Symbol Time TypeError BEGIN END'.split(
    ' ',
  ),
);

/** Methods that every object has, those of records, and what records call of the former. */
export const reservedFields = new Set(
  'as_json class clone deconstruct_keys define_singleton_method display dup enum_for extend extra freeze frozen hash inspect instance_eval instance_exec instance_of instance_variable_defined instance_variable_get instance_variable_set instance_variables is_a itself kind_of method methods object_id pp private_methods protected_methods public_method public_methods public_send raise read_field read_fields refuse_others remove_instance_variable respond_to send set_field singleton_class singleton_method singleton_methods super tap then to_enum to_h to_json to_s with without yield_self initialize instance_variable_names method_missing respond_to_missing'.split(
    ' ',
  ),
);

/** The constants that every program of Ruby has: no module may be called as a class is. */
const topLevel =
  'ARGF ARGV ArgumentError Array BasicObject Binding Class ClosedQueueError Comparable Complex ConditionVariable DATA Delegator DidYouMean Dir ENV EOFError Encoding EncodingError Enumerable Enumerator Errno ErrorHighlight Etc Exception FalseClass Fiber FiberError File FileTest Float FloatDomainError FrozenError GC Gem Hash IO IOError IndexError Integer Interrupt JSON Kernel KeyError LoadError LocalJumpError Marshal MatchData Math Method Module Monitor MonitorMixin Mutex NameError NilClass NoMatchingPatternError NoMatchingPatternKeyError NoMemoryError NoMethodError NotImplementedError Numeric Object ObjectSpace OpenSSL Pathname Proc Process Queue RUBY_VERSION Ractor Random Range RangeError Rational RbConfig Refinement Regexp RegexpError RubyVM RuntimeError STDERR STDIN STDOUT ScriptError SecurityError Set Signal SignalException SizedQueue StandardError StopIteration String StringIO Struct Symbol SyntaxError SystemCallError SystemExit SystemStackError Thread ThreadError ThreadGroup Time Timeout TracePoint TrueClass TypeError URI UnboundMethod UncaughtThrowError UnicodeNormalize Warning WeakRef ZeroDivisionError BigDecimal Date DateTime BEGIN END Fixnum Bignum TRUE FALSE NIL Data SortedSet';

export const reservedPackages = new Set(topLevel.split(' '));

export function moduleName(model: TypeModel, options: Pick<EmitOptions, 'package'> = {}): string {
  return options.package ?? `${identifier(model.name, typeCase)}Payload`;
}

/** The file that is required, without its ending. */
export function fileName(model: TypeModel, options: Pick<EmitOptions, 'package'> = {}): string {
  return identifier(moduleName(model, options), snakeCase);
}
