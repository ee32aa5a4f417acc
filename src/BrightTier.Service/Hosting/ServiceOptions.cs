namespace BrightTier.Service.Hosting;

/// <summary>
/// How one service is set up; from the command line, the environment (BRIGHTTIER_DATA …) or appsettings, under BrightTier.
/// </summary>
public sealed class ServiceOptions
{
    public const string Section = "BrightTier";

    /// <summary>The folder of the databases, keys and stored files.</summary>
    public string Data { get; set; } = ".data";

    /// <summary>A connection string of PostgreSQL, for documents and for records; null for SQLite in the data folder.</summary>
    public string? Database { get; set; }

    /// <summary>
    /// A connection string of a copy of that database which follows it by streaming replication: records are read from it; null for none.
    /// </summary>
    public string? Replica { get; set; }

    /// <summary>
    /// Connection strings of databases that may be attached, by name: of PostgreSQL (Host=…) or SQLite (Data Source=…). They are read and
    /// written with the rights of the connection, and never altered.
    /// </summary>
    public IDictionary<string, string> Databases { get; init; } = new Dictionary<string, string>(StringComparer.Ordinal);

    /// <summary>A folder of documents, people and records with which an empty service begins; null for none.</summary>
    public string? Seed { get; set; }

    /// <summary>A backup with which an empty service begins; null for none.</summary>
    public string? Restore { get; set; }

    /// <summary>
    /// Whether anybody at this machine may become anybody by picking a name. For demonstrations; refuses forwarded requests.
    /// </summary>
    public bool PickPeople { get; set; }

    /// <summary>
    /// Whether the service measures itself: for Prometheus at /metrics, and by OTLP where OTEL_EXPORTER_OTLP_ENDPOINT names a collector.
    /// </summary>
    public bool Metrics { get; set; }

    /// <summary>The folder of the built console, or null to look beside the program and in the checkout.</summary>
    public string? Console { get; set; }

    /// <summary>The folder of the example a new service offers, or null to look beside the program and in the checkout.</summary>
    public string? Example { get; set; }

    /// <summary>
    /// Origins, with commas between, whose pages may hold forms of this service, such as https://quay.example.org. Their readers are known
    /// by token, never by cookie.
    /// </summary>
    public string? Origins { get; set; }

    /// <summary>
    /// Addresses and networks (CIDR), with commas between, of the reverse proxies whose X-Forwarded-For and X-Forwarded-Proto are believed;
    /// null for none.
    /// </summary>
    public string? Proxies { get; set; }

    /// <summary>
    /// Whether there is something to serve: one that finds nothing does not begin, since then it looks in the wrong place.
    /// </summary>
    public bool Existing { get; set; }

    /// <summary>Whether it only prints a new code for its administrator, and ends.</summary>
    public bool NewCode { get; set; }

    /// <summary>For tests of what survives: the step of a publish at which the process kills itself.</summary>
    public string? KillAt { get; set; }

    /// <summary>An identity provider through which people sign in.</summary>
    public OpenIdOptions OpenId { get; set; } = new();

    /// <summary>
    /// How many calls a person, or an address nobody is signed in from, may make in a second, four times as many at once; 0 for any number.
    /// Forms are not counted.
    /// </summary>
    public int CallsPerSecond { get; set; } = 500;

    /// <summary>How often one may try to sign in from one address in a minute; 0 for any number.</summary>
    public int SignInsPerMinute { get; set; } = 120;

    /// <summary>How log lines are written: text, or json with one object a line.</summary>
    public string Log { get; set; } = "text";
}
