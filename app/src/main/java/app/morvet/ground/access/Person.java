package app.morvet.ground.access;

import java.io.Serializable;
import java.security.Principal;
import java.util.List;
import org.springframework.security.core.authority.SimpleGrantedAuthority;

/**
 * Somebody who is logged in, or acted earlier.
 *
 * @param id    in the store
 * @param login what they log in with, lower case
 * @param name  what others call them
 * @param role  what they may do
 */
public record Person(long id, String login, String name, Role role) implements Principal, Serializable {
    private static final long serialVersionUID = 1;

    @Override
    public String getName() {
        return name;
    }

    List<SimpleGrantedAuthority> authorities() {
        return role.rights().stream().map(SimpleGrantedAuthority::new).toList();
    }

    public boolean may(String right) {
        return role.rights().contains(right);
    }
}
