/**
 * The program that looks where Morvet cannot reach. It opens every connection itself, does what its brief asks as far as the
 * file on its own host allows, and keeps what it saw until Morvet has taken it.
 */
@NullMarked
package app.morvet.outpost;

import org.jspecify.annotations.NullMarked;
