package app.morvet.core.messages;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;

/**
 * Finds names of people, firms, ships and places that stand without quotes: behind a word that says what is named, as in
 * {@code passenger Aino Salmi}, {@code vessel M/S Aurelia} or {@code port of Trevik}.
 */
final class NameWords {
    private static final Set<String> NAMED = CodeWords.words(
            """
            passenger, customer, guest, traveller, holder, driver, captain, employee, gate, quay, pier, deck, dock, region,
            agent, carrier, shipper, consignee, supplier, partner, operator, company, person, contact, user, vessel, ship,
            ferry, harbour, terminal, named, called, member, pilot, skipper, officer, mr, ms, mv, matkustaja, matkustajaa,
            asiakas, asiakasta, kuljettaja, kumppani, käyttäjä, alus, alusta, laiva, satama, passagerare, passageraren,
            kund, kunden, förare, användare, användaren, fartyg, fartyget, hamn, hamnen, passagier, kunde, kundin, fahrer,
            benutzer, lieferant, empfänger, schiff, hafen, herr, frau, passasjer, skip, skipet, havn, reisija, klient, laev,
            sadam, passager, client, navire, pasajero, cliente, buque""");
    private static final Set<String> PLACES = CodeWords.words("port, harbour, city, town");
    /** Words that are no names, though titles write them with a capital. */
    private static final Set<String> ORDINARY = CodeWords.words(
            """
            a, access, account, action, active, address, admin, after, agent, all, already, also, and, any, api, app, are,
            as, at, authentication, authorization, backup, bad, because, before, blocked, booking, but, by, cache, can,
            cannot, client, closed, cluster, code, column, config, configuration, connection, controller, could, creation,
            data, database, deletion, denied, departed, details, device, did, directory, disabled, does, down, due, during,
            each, engine, error, event, exchange, expired, export, failed, failure, feed, field, file, for, found, from,
            gateway, group, has, have, header, id, ids, if, import, in, inactive, index, info, input, interface, into,
            invalid, is, it, job, key, layer, limit, line, list, loader, lock, locked, login, lookup, management, manager,
            manifest, mapping, master, may, message, missing, monitor, must, name, no, node, not, number, of, offline, on,
            only, open, operation, or, order, output, over, party, password, per, policy, portal, printer, process, profile,
            queue, reader, record, reference, refused, registration, registry, rejected, removal, report, request, response,
            restore, returned, role, row, scanner, schedule, schema, sensor, server, service, session, since, so, state,
            status, store, suspended, sync, system, table, than, that, the, this, timeout, to, token, traffic, transfer,
            type, unauthorized, unavailable, unknown, unreachable, up, update, version, via, was, when, which, while, who,
            will, with, within, without, worker""");

    /** Behind these two names of three capitals each are a value. */
    static final Set<String> PAIRED = CodeWords.words(
            """
            route, routes, crossing, sailing, voyage, leg, line, lane, connection, pair, rate, currency, tariff, reitti,
            rutt, strecke""");

    /** Behind these stands who it was, however the name is written. */
    static final Set<String> PEOPLE = CodeWords.words(
            "user, username, role, login, käyttäjä, käyttäjän, användare, användaren, benutzer, bruker, kasutaja");

    /** Behind these a word in capitals is one of the values there are. */
    static final Set<String> VALUED = CodeWords.words(
            """
            role, rank, class, season, language, locale, country, nationality, category, entry, key, departure, arrival, destination,
            origin, harbour, port, station, plate, brand, model, article, item, product, rooli, roll, rolle""");

    /** Behind these stands the name of a machine, or of a program that speaks as one. */
    static final Set<String> MACHINES =
            CodeWords.words("node, host, server, machine, vm, client, member, broker, peer, palvelin, solmu, nod");

    /** Behind these a single capital is one of a row. */
    static final Set<String> LETTERED = CodeWords.words(
            """
            region, deck, terminal, drive, volume, disk, gate, zone, class, berth, section, block, lane, hall, pier, dock,
            bay, quay, group, platform, kansi, laituri, terminaali, luokka, däck, kaj, klass, klasse, kai""");

    /** Behind these and <em>by</em> stands no one who did it. */
    static final Set<String> BY_WHAT =
            CodeWords.words("caused, sorted, ordered, grouped, indexed, joined, filtered, divided");

    /** Three capitals that name a currency and mean nothing else (of ISO 4217, what is traded most). */
    static final Set<String> CURRENCIES = CodeWords.words(
            "EUR, USD, GBP, SEK, NOK, DKK, ISK, PLN, CZK, HUF, CHF, JPY, CNY, AUD, CAD, NZD, SGD, HKD, INR, ZAR");

    private static final String WORD =
            "(?:\\p{Lu}['’])?\\p{Lu}(?:\\p{Ll}++(?:[-'’]\\p{Lu}?\\p{Ll}++)*+|\\p{Lu}{3,}+)(?![\\p{L}\\p{N}_(=/\\\\-]|[.:]\\p{L})";
    private static final Pattern ONE = Pattern.compile("(?:M/[SV] |M[SV] )?+" + WORD);
    private static final Pattern NEXT =
            Pattern.compile("(?:, ?| & | \\p{Lu}\\. | )(?:" + WORD + "|(?:AB|AG|AS|KG|OY|SA)(?![\\p{L}\\p{N}_]))");

    private NameWords() {}

    /** Whether a name may stand behind these two words, the later one first. */
    static boolean announce(String last, String earlier) {
        return NAMED.contains(last)
                || last.equals("of") && PLACES.contains(earlier)
                || earlier.equals("m") && (last.equals("s") || last.equals("v"));
    }

    /**
     * Where the name that begins at a place ends; the place itself where none does. Behind a word that begins a text with a
     * capital, what ends the line is a title ({@code Customer Blocked}).
     *
     * @param opens whether the word that says what is named begins the text
     */
    static int end(String line, int at, boolean opens) {
        var first = ONE.matcher(line).region(at, line.length()).useTransparentBounds(true);
        if (!first.lookingAt() || ordinary(first.group())) return at;
        int end = first.end();
        var next = NEXT.matcher(line).useTransparentBounds(true);
        while (next.region(end, line.length()).lookingAt() && !ordinary(next.group())) end = next.end();
        boolean goesOn = next.lookingAt();
        boolean title = goesOn || opens && end == line.length() && Character.isUpperCase(line.charAt(0));
        return title ? at : end;
    }

    /** Whether a word, or the last of several, is no name. */
    static boolean ordinary(String name) {
        return ORDINARY.contains(
                name.substring(name.lastIndexOf(' ') + 1).replace(",", "").toLowerCase(Locale.ROOT));
    }
}
