/** What people have outposts do on their hosts: asked once, followed, and put on record. */
@NullMarked
package app.morvet.work.actions;

import org.jspecify.annotations.NullMarked;
