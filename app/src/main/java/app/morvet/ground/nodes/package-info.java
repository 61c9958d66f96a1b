/** Several processes of Morvet on one database: what they tell each other, and who of them does what only one may do. */
@NullMarked
package app.morvet.ground.nodes;

import org.jspecify.annotations.NullMarked;
