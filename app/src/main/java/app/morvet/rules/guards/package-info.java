/** Standing rules: stored, edited as sentences, and evaluated over what arrives. */
@NullMarked
package app.morvet.rules.guards;

import org.jspecify.annotations.NullMarked;
