@NullMarked
package __package__;

import org.jspecify.annotations.NullMarked;
