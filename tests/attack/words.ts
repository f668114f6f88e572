/**
 * Words that mean something somewhere: keywords, names that every file of a language has, names of its library, of the
 * libraries of C, and of what generated code brings with it.
 */
export const words = [
  ...new Set(
    `
abstract alias alignas alignof and any arguments array as asm assert associatedtype async atomic auto await base become
begin bool boolean box break byte bytes case catch chan char check checked class clone co_await co_return co_yield
companion compl complex concept const const_cast consteval constexpr constinit continue contract copy crate data debugger
decimal declare decltype def default defer defined deinit del delegate delete dict die dim do double dyn echo elif else
elsif empty end endif endfor enum ensure event except exec exit explicit export extends extension extern external
fallthrough false fileprivate final finally fixed float fn for foreach for_some from fun func function generic get given
global go goto guard hash id if impl implements implicit import in include indirect infix init inline inner inout input
insteadof instanceof int int32 int64 interface internal intersect into is isinstance isset iter join keyof lambda lateinit
lazy let list lock long loop macro main map match max maybe min mixin mod module move mut mutable namespace native new
next nil none nonlocal noexcept not null nullptr number object of open operator opaque optional or out override package
parent pass permits postfix precedencegroup prefix print private property protected protocol pub public raise range raw
readonly record redo ref reference register reified reinterpret_cast rescue require required reset result resume retry
return root sealed select self sequence set setter shared short signed sizeof some stackalloc static static_assert
static_cast str strictfp string struct subscript sum super super_ suspend switch symbol synchronized tailrec template then
this thread_local throw throws trait transient transparent true try tuple type typealias typedef typeid typename typeof
uint unchecked undef undefined union unique unless unowned unsafe unsigned unset unsized until use using val value values
var varargs vararg vec virtual void volatile wchar_t weak when where while willSet with xor yield
clone equals finalize getClass hashCode notify notifyAll toString wait ordinal name compareTo getType Equals GetHashCode
GetType ToString MemberwiseClone ReferenceEquals constructor prototype hasOwnProperty isPrototypeOf valueOf
toLocaleString __proto__ __init__ __class__ __dict__ __construct __get __set __call __toString __name__ __slots__
class_method freeze frozen dup send method methods object_id instance_eval public_send respond_to inspect display then
productArity productElement productIterator productPrefix canEqual isInstanceOf asInstanceOf component1 copy_ unapply
apply encode decode encoded decoded dumps loads read write reader writer parse parsed serialize json Json JSON
Any AnyRef AnyVal Array ArrayList Attribute Base Base64 BigDecimal BigInt BigInteger Binary Bool Boolean Box Buffer Byte
Callable Char Character Class ClassVar Codable CodingKey CodingKeys Codec Collections Comparable Console Convert Data Date
DateTime DateTimeOffset Decimal DecodeError Decoder Decodable Default Delegate Deprecated Dictionary Double Either Element
Encodable Encoder Encoding END EOF Enum Env Environment Equatable Err Error Errno Exception Exit Exact False Field Fields
File Fixnum Float FILE Func Function Future GC Generator Guid Hash Hashable HashMap IO Index Infinity Int Integer Iterable
Iterator JObject JToken JValue JsonNode JsonProperty JsonConverter Kernel KeyError Left LinkedHashMap List Literal Long Log
Map Math Matrix Message Method Module NaN Nil Nothing Null NULL Nullable Number Object ObjectMapper Ok Option Optional
Optional_ Order Ordering Other Override Package Pair PhantomData Predef Process Product Promise Proc Proxy Queue Random
Range Rational Reader Record RECORD Reflect Regexp Regex Result Right Runtime RuntimeError Rust Select Self Sendable Seq
Serde Set Short Signal Some Sort Stack State StateError Std Stream String StringBuilder Struct Symbol System Task Text
Thread Throwable Time TimeSpan Timeout Tuple Tuple2 Type TypeError TypeVar UInt Unicode Union Unit Unknown Uri URL UUID
Value ValueError Vec Vector Version Void Warning WeakMap Word Writer
abort abs accept access acos alarm atan atoi bind bsearch calloc chdir chmod clock close connect cos creat ctime daylight
div dup2 environ erf errno execl exp floor fopen fork free gamma getc getenv getpid gets index ioctl isalpha j0 j1 kill
labs ldexp link listen log log2 lseek major malloc memcpy minor mkdir mktime nice open optarg pause pipe poll pow printf
putc puts qsort raise_ rand read_ realloc remove rename rewind round scanf sem signal signgam sin sleep socket sqrt srand
stat stderr stdin stdout strcat strcpy strlen sync system tan tempnam time times timezone tmpfile toupper truncate ttyname
tzname umask uname unlink utime vfork wait4 write_ y0 y1 yn linux unix i386 errno assert_ NDEBUG major minor makedev
`
      .split(/\s+/)
      .filter((word) => word !== ''),
  ),
];
