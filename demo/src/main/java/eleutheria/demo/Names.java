package eleutheria.demo;

import java.text.Normalizer;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.random.RandomGenerator;

/** Invented people's names from many languages; some in their own script, with a Latin reading. */
final class Names {
  /**
   * @param latin how the name is written in an account name
   */
  record Part(String written, String latin) {
    static Part of(String text) {
      int bar = text.indexOf('|');
      return bar < 0
          ? new Part(text, text)
          : new Part(text.substring(0, bar), text.substring(bar + 1));
    }
  }

  private static final List<List<String>> GIVEN =
      List.of(
          List.of(
              "Mikkel", "Eva", "Lena", "Oda", "Tuva", "Sander", "Ingrid", "Åse", "Bjørn", "Signe",
              "Håkon", "Liv", "Torvald", "Runa", "Espen", "Maren", "Jonas", "Siri", "Vilde",
              "Aksel", "Astrid", "Eirik", "Solveig", "Nils", "Karin", "Göran", "Ulla", "Sten",
              "Pia", "Arvid"),
          List.of(
              "Moira",
              "Callum",
              "Ailsa",
              "Rhys",
              "Bronwen",
              "Fergus",
              "Nora",
              "Declan",
              "Isla",
              "Hamish",
              "Una",
              "Gareth",
              "Morag",
              "Ewan",
              "Catrin",
              "Finlay",
              "Tess",
              "Alasdair"),
          List.of(
              "Mina", "Kenji", "Yuki", "Haruto", "Aiko", "Minh", "Linh", "Jisoo", "Priya", "Arjun",
              "Kavya", "Rohan", "Ananya", "Dinesh", "Leilani", "Tane", "Aroha", "Siti"),
          List.of(
              "Adaeze", "Kwame", "Zanele", "Abena", "Tendai", "Amara", "Chidi", "Lerato", "Omar",
              "Fatima", "Yasmin", "Idris", "Samira", "Karim", "Leyla", "Emre", "Defne", "Baran"),
          List.of(
              "Jana",
              "Tomas",
              "Petra",
              "Marek",
              "Zofia",
              "Piotr",
              "Ewa",
              "László",
              "Ilona",
              "Matei",
              "Ioana",
              "Ana",
              "Luka",
              "Mirela",
              "Vedran",
              "Katya",
              "Agnieszka",
              "Jiří"),
          List.of(
              "Inês", "Rui", "Beatriz", "Mateo", "Lucía", "Iker", "Chiara", "Elena", "Dario", "Noé",
              "Amélie", "Théo", "Greta", "Klaus", "Annika", "Jörg", "Wietske", "Bram"),
          List.of(
              "Ελένη|Eleni",
              "Γιώργος|Giorgos",
              "Νίκος|Nikos",
              "Олена|Olena",
              "Дмитро|Dmytro",
              "Иван|Ivan",
              "ليلى|Layla",
              "يوسف|Yusuf",
              "小明|Xiaoming",
              "美玲|Meiling"));

  private static final List<List<String>> FAMILY =
      List.of(
          List.of(
              "Holm",
              "Lindqvist",
              "Aho",
              "Brekke",
              "Sandvik",
              "Ødegård",
              "Nygaard",
              "Hagström",
              "Tveit",
              "Kallio",
              "Rasmussen",
              "Vestby",
              "Lundgren",
              "Fossum",
              "Ekdal",
              "Myhre",
              "Strand",
              "Bakke",
              "Sørli",
              "Åkerlund",
              "Virtanen",
              "Solheim",
              "Dahl",
              "Krogh",
              "Haugen",
              "Thorsen",
              "Lie",
              "Nordby",
              "Eide",
              "Skog"),
          List.of(
              "Weir",
              "MacAskill",
              "Pryce",
              "Lochhead",
              "O'Hara",
              "Tulloch",
              "Rennie",
              "Breen",
              "Gwynne",
              "Kerrigan",
              "Munro",
              "Drever",
              "Flett",
              "Isbister",
              "Corrigall",
              "Rendall"),
          List.of(
              "Sato",
              "Tanaka",
              "Mori",
              "Nguyen",
              "Tran",
              "Park",
              "Nair",
              "Iyer",
              "Rao",
              "Desai",
              "Menon",
              "Parata",
              "Rahman",
              "Kealoha",
              "Fujita",
              "Banerjee"),
          List.of(
              "Okafor", "Mensah", "Dlamini", "Boateng", "Moyo", "Diallo", "Haddad", "Mansour",
              "Demir", "Yıldız", "Kaya", "Aydın", "El-Amin", "Nkosi", "Traoré", "Abara"),
          List.of(
              "Novák",
              "Dvořáková",
              "Kowalska",
              "Wiśniewski",
              "Nagy",
              "Szabó",
              "Popescu",
              "Ionescu",
              "Horvat",
              "Kovač",
              "Petrova",
              "Zieliński",
              "Hruška",
              "Balog",
              "Marin",
              "Babić"),
          List.of(
              "Ferreira",
              "Almeida",
              "Etxeberria",
              "Ruiz",
              "Moretti",
              "Galli",
              "Lefèvre",
              "Garnier",
              "Roth",
              "Vogel",
              "Jäger",
              "de Vries",
              "van der Laan",
              "Keller",
              "Baumann",
              "Costa"),
          List.of(
              "Παπαδάκη|Papadaki",
              "Ιωάννου|Ioannou",
              "Δήμου|Dimou",
              "Шевченко|Shevchenko",
              "Коваль|Koval",
              "Лисенко|Lysenko",
              "حداد|Haddad",
              "منصور|Mansour",
              "王|Wang",
              "陈|Chen"));

  private static final int[] SHARES = {38, 62, 73, 82, 90, 98, 100};

  private final RandomGenerator random;
  private final Map<String, Integer> taken = new HashMap<>();

  Names(RandomGenerator random) {
    this.random = random;
  }

  Part given(int language) {
    return pick(GIVEN.get(language));
  }

  Part family(int language) {
    return pick(FAMILY.get(language));
  }

  private Part pick(List<String> list) {
    return Part.of(list.get(random.nextInt(list.size())));
  }

  int language() {
    int draw = random.nextInt(100);
    int language = 0;
    while (draw >= SHARES[language]) {
      language++;
    }
    return language;
  }

  /** An account name that nobody has: given.family, with a number from the second on. */
  String userName(Part given, Part family) {
    String plain =
        Normalizer.normalize(given.latin() + "." + family.latin(), Normalizer.Form.NFKD)
            .toLowerCase(Locale.ROOT)
            .replace("ø", "o")
            .replace("ı", "i")
            .replace("ł", "l")
            .replaceAll("[^a-z.]", "");
    int number = taken.merge(plain, 1, Integer::sum);
    return number == 1 ? plain : plain + number;
  }
}
