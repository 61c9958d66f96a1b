/** What people are told by, besides mail: a gateway for text messages; chats, paging services and whatever else takes web calls. */
@NullMarked
package app.morvet.work.channels;

import org.jspecify.annotations.NullMarked;
