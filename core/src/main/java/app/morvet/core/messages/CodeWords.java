package app.morvet.core.messages;

import java.util.Set;

/** The words of the trade by which a code is told from a value. */
final class CodeWords {
    /** Words that announce a code whatever its shape. */
    static final Set<String> ANNOUNCE = words(
            """
            http, https, statuscode, errno, sqlcode, sqlstate, exitcode, exitstatus, returncode, errorcode, errcode,
            responsecode, httpstatus, httpcode, rc, retcode, resultcode, reasoncode, signal, smtp, hresult, ntstatus, abend,
            oserror, winerror, faultcode, status, cc, retval, errornumber, messagecode, failurecode, subcode, minor,
            lasterror, fehlercode, fehlernummer, felkod, feilkode, fejlkode, virhekoodi, veakood, mqrc""");

    /** An error, as the languages that are about call it: a number just behind is its own. */
    static final Set<String> ERRORS = words(
            "error, err, exception, fault, failure, abort, fehler, fel, feil, fejl, virhe, virheen, virheeseen, erreur, viga");

    static final Set<String> CODES = words("code, codes, kod, kode, kood, koodi");

    /** Before {@code code} these, or nothing (the empty word in front), make it one; another noun makes it a value: a harbour code. */
    static final Set<String> CODE_OF = words(
            """
            , error, exit, return, status, response, reason, result, http, fault, sql, completion, abend, action, smtp,
            vendor, native, os, system, with, and, by, the, a, an, has, got, gave, returned, failure, reply, signal, api,
            message, rejection, reject, server, failed, unexpected, exception, received, db, database, state, condition,
            closed, close, grpc, rejected""");

    static final Set<String> EXITS = words("exit, exited, exits, terminated, quit, died, killed, aborted");

    /** A number behind these is a status if it looks like one. */
    static final Set<String> ANSWERS = words(
            """
            answered, answer, answers, returned, returns, replied, reply, responded, response, responds, got, received,
            gave, with, was, is, said, says, failed, server, unexpected, a, an, error, by, on, from, code, gets, sent,
            throws, raised""");

    /** Behind these a short word of capitals and figures is what a device reports: {@code returned E07}. */
    static final Set<String> TELL =
            words("returned, returns, reports, reported, answered, replied, responded, raised, showed, shows");

    /** Methods of HTTP (RFC 9110), behind which a log has a path and a status. */
    static final Set<String> METHODS = words("GET, POST, PUT, PATCH, DELETE, HEAD, OPTIONS");

    /** Before or behind a quoted name these say that it is one of a program and no value. */
    static final Set<String> NAMED = words(
            """
            column, columns, table, relation, constraint, index, field, property, parameter, attribute, view, sequence,
            function, procedure, method, type, header, element, argument, variable, tag, member, option, module, package,
            class, bean, schema, trigger, step, stage, phase, violates, invoke, reading, kenttä, sarake, pflichtfeld, feld,
            spalte, tabelle, fält, kolumn, champ, colonne, campo, columna, tabla, felt, väli, veeru, πεδίο, поле, столбец,
            keyerror, because, attributes, properties""");

    /** Behind these a word with a number is a host with its port. */
    static final Set<String> HOSTED =
            words("to, at, host, with, server, upstream, backend, proxy, from, connect, connecting, peer");

    static final Set<String> LISTENS = words("tcp, udp, listen, listening, bind, binding, on, addr, dial");

    static final Set<String> PHRASES = words(
            """
            bad request, unauthorized, payment required, forbidden, not found, method not, not acceptable, proxy
            authentication, request timeout, conflict, gone, length required, precondition failed, payload too, request
            entity, content too, uri too, request-uri too, unsupported media, range not, expectation failed, misdirected
            request, unprocessable entity, unprocessable content, locked, failed dependency, too early, upgrade required,
            precondition required, too many, request header, unavailable for, internal server, not implemented, bad gateway,
            service unavailable, service temporarily, gateway timeout, gateway time-out, http version, variant also,
            insufficient storage, loop detected, network authentication, moved permanently, found, see other, temporary
            redirect, permanent redirect, not modified""");

    static final Set<String> FOLLOW =
            words("from, for, to, on, instead, when, after, while, at, by, during, error, response, in");

    private CodeWords() {}

    /** @param list with commas between them; what is of several words may go over the end of a line */
    static Set<String> words(String list) {
        return Set.of(list.replaceAll("\\s+", " ").split(", ?"));
    }
}
