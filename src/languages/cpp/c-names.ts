/**
 * Functions and types of C that the headers of generated code bring into the global namespace, as GNU's library has
 * them, but for those that differ from another in a last f or l alone: no namespace may be called so.
 */
export const namesOfC = `
abort abs accept accept4 access acct acos acosh alarm alloca asctime asin asinh asprintf assert atan atan2 atanh
atexit atof atoi atol basename bcmp bcopy bind bindtextdomain brk bsearch btowc bzero calloc canonicalize cbrt
ceil chdir chmod chown chroot clearenv clearerr clock clone close closefrom cmsghdr confstr connect copysign cos
cosh creat crypt ctermid ctime cuserid daddl daemon daylight dcgettext dcngettext ddivl dfmal dgettext difftime
div dmull dngettext dprintf drem dsqrtl dsubl dup dup2 dup3 duplocale dysize eaccess ecvt endusershell environ
erf erfc errno euidaccess execl execle execlp execv execve execveat execvp execvpe exit exp exp2 expm1 fabs
faccessat fadd fallocate fchdir fchmod fchmodat fchown fchownat fclose fcloseall fcntl fcvt fdatasync fdim fdiv
fdopen feof ferror fexecve fflush ffma ffs fgetc fgetpos fgets fgetwc fgetws fileno finite flock flockfile floor
fma fmax fmaximum fmaxmag fmemopen fmin fminimum fminmag fmod fmul fopen fopencookie fork fpathconf fprintf
fputc fputs fputwc fputws fread free freelocale freopen frexp fromfp fromfpx fscanf fseek fseeko fsetpos fsqrt
fstat fstatat fsub fsync ftell ftello ftruncate ftrylockfile funlockfile futimens fwide fwprintf fwrite fwscanf
gamma gcvt getc getchar getcpu getcwd getdate getdelim getdomainname getdtablesize getegid getentropy getenv
geteuid getgid getgroups gethostid gethostname getline getloadavg getlogin getopt getpagesize getpass getpayload
getpeername getpgid getpgrp getpid getppid getpt getresgid getresuid getsid getsockname getsockopt getsubopt
gettext gettid getuid getumask getusershell getw getwc getwchar getwd gmtime grantpt gsignal hypot ilogb index
initstate iovec isalnum isalpha isascii isatty isblank iscanonical iscntrl isctype isdigit iseqsig isfdtype
isgraph isinff isinfl islower isnanf isnanl isprint ispunct issignaling isspace isupper iswalnum iswalpha
iswblank iswcntrl iswctype iswdigit iswgraph iswlower iswprint iswpunct iswspace iswupper iswxdigit isxdigit
iszero itimerspec j0 j1 jn kill killpg labs lchmod lchown lconv ldexp ldiv lgamma linger link linkat linux
listen llabs lldiv llogb llrint llround localeconv localtime lockf log log2 logb lrint lround lseek lstat malloc
mblen mbrlen mbrtowc mbsinit mbsnrtowcs mbsrtowcs mbstowcs mbtowc memccpy memchr memcmp memcpy memfrob memmem
memmove mempcpy memrchr memset mkdir mkdirat mkdtemp mkfifo mkfifoat mknod mknodat mkostemp mkostemps mkstemp
mkstemps mktemp mktime mmsghdr modf msghdr nan nanosleep nearbyint newlocale nextafter nextdown nexttoward
nextup ngettext nice obstack offsetof open openat optarg opterr optind optopt osockaddr pathconf pause pclose
perror pipe pipe2 popen pow pread printf profil pselect psiginfo psignal ptsname putc putchar putenv puts putw
putwc putwchar pwrite qecvt qfcvt qgcvt qsort raise rand random rawmemchr read readahead readlink readlinkat
realloc reallocarray realpath recv recvfrom recvmmsg recvmsg remainder remove remquo rename renameat renameat2
revoke rewind rindex rint rmdir round roundeven rpmatch sbrk scalb scalbln scalbn scanf select send sendmmsg
sendmsg sendto setbuf setbuffer setdomainname setegid setenv seteuid setgid sethostid sethostname setlinebuf
setlocale setlogin setns setpayload setpayloadsig setpgid setpgrp setregid setresgid setresuid setreuid setsid
setsockopt setstate setuid setusershell setvbuf shutdown sigaction sigaddset sigaltstack sigandset sigblock
sigcontext sigdelset sigemptyset sigevent sigfillset siggetmask sighold sigignore siginterrupt sigisemptyset
sigismember signal signgam significand sigorset sigpause sigpending sigprocmask sigqueue sigrelse sigreturn
sigset sigsetmask sigstack sigsuspend sigtimedwait sigval sigwait sigwaitinfo sin sincos sinh sleep snprintf
sockaddr sockatmark socket socketpair splice sprintf sqrt srand srandom sscanf ssignal stat statx stderr stdin
stdout stpcpy stpncpy strcasecmp strcasestr strcat strchr strchrnul strcmp strcoll strcpy strcspn strdup
strerror strfromd strfromf strfroml strfry strftime strlen strncasecmp strncat strncmp strncpy strndup strnlen
strpbrk strptime strrchr strsep strsignal strspn strstr strtod strtof strtok strtol strtold strtoq strtoul
strtouq strverscmp strxfrm swab swprintf swscanf symlink symlinkat sync syncfs syscall sysconf system tan tanh
tcgetpgrp tcsetpgrp tee tempnam textdomain tgamma tgkill time timegm timelocal timespec timeval timex timezone
tm tmpfile tmpnam toascii tolower totalorder totalordermag toupper towctrans towlower towupper trunc truncate
ttyname ttyslot tzname tzset ualarm ucred ufromfp ufromfpx uint ulong umask ungetc ungetwc unix unlink unlinkat
unlockpt unsetenv unshare uselocale ushort usleep utimensat valloc vasprintf vdprintf vfork vfprintf vfscanf
vfwprintf vfwscanf vhangup vmsplice vprintf vscanf vsnprintf vsprintf vsscanf vswprintf vswscanf vwprintf
vwscanf wcpcpy wcpncpy wcrtomb wcscasecmp wcscat wcschr wcschrnul wcscmp wcscoll wcscpy wcscspn wcsdup wcsftime
wcslen wcsncasecmp wcsncat wcsncmp wcsncpy wcsnlen wcsnrtombs wcspbrk wcsrchr wcsrtombs wcsspn wcsstr wcstod
wcstof wcstok wcstol wcstold wcstombs wcstoq wcstoul wcstouq wcswcs wcswidth wcsxfrm wctob wctomb wctrans wctype
wcwidth wmemchr wmemcmp wmemcpy wmemmove wmempcpy wmemset wprintf write wscanf y0 y1 yn
`
  .trim()
  .split(/\s+/);
