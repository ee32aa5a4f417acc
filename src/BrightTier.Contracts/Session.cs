namespace BrightTier.Contracts;

/// <summary>
/// Who one is, what one may, and what the application is; <see cref="Antiforgery"/> goes into the header X-Antiforgery of every call that
/// changes something under a cookie.
/// </summary>
/// <param name="Provider">What the identity provider is called by which one can sign in too; null without one.</param>
/// <param name="Language">The person's, or of the application's the one the browser asks for.</param>
/// <param name="LastEventId">The last event before this answer; an event stream asked for with it as <c>after</c> begins with what happened
/// since.</param>
/// <param name="Unclaimed">Whether nothing is published yet and nobody is signed in: the service waits to be set up.</param>
/// <param name="Viewer">Who is signed in and sees the application as the person does, changing nothing; null where one is oneself.</param>
public sealed record SessionInfo(
    Person? Person,
    IReadOnlyList<string> Permissions,
    string Antiforgery,
    ApplicationInfo Application,
    bool PeopleCanBePicked,
    long Release,
    string Language,
    string? Provider,
    string LastEventId,
    bool Unclaimed = false,
    Person? Viewer = null
);

/// <summary>The id of the person as whom the application is to be seen.</summary>
public sealed record ViewRequest(string Person);

/// <param name="Vouched">Whether the identity provider vouches for the person and says the roles; for administrators and oneself.</param>
/// <param name="Region">Whose dates, times and numbers are written (ISO 3166-1, such as NL); null for those of the language.</param>
public sealed record Person(
    string Id,
    string Name,
    IReadOnlyList<string> Roles,
    string Language,
    bool Vouched = false,
    string? Region = null
);

/// <summary>What a person is to be: all roles, the language, and the region or none.</summary>
public sealed record PersonRequest(string Name, IReadOnlyList<string> Roles, string Language, string? Region = null);

/// <summary>How a person reads the application: in which language, with whose dates and numbers.</summary>
public sealed record Localization(string Language, string? Region = null);

/// <summary>Says that a person has other roles, another language or another region.</summary>
public sealed record PersonEvent(string Person);

public sealed record ApplicationInfo(
    string Title,
    IReadOnlyList<string> Languages,
    string Currency,
    string TimeZone,
    IReadOnlyList<RoleInfo> Roles,
    IReadOnlyList<WidthInfo> Widths,
    ThemeInfo Theme,
    bool Approval
);

/// <summary>
/// Colours as #rrggbb, a typeface (sans, serif or system) and a ground (sand, chalk or heather); null is as supplied.
/// </summary>
public sealed record ThemeInfo(string? Primary, string? Accent, string? Typeface, string? Ground);

/// <summary>A named width: from <paramref name="From"/> rem up to, not including, <paramref name="Below"/>; the last has no end.</summary>
public sealed record WidthInfo(string Name, int From, int? Below);

/// <param name="Entities">The entities it may configure; empty for all.</param>
public sealed record RoleInfo(string Key, string Label, IReadOnlyList<string> Permissions, IReadOnlyList<string> Entities);

/// <summary>Signs in: by a person's password, by a personal token, or, where the service allows it, by naming a person.</summary>
/// <param name="NewPassword">The password one has from now on; asked for where somebody else set the one up to now.</param>
public sealed record SignIn(string? Person = null, string? Token = null, string? Password = null, string? NewPassword = null);

/// <summary>Changes one's own password; <paramref name="Current"/> is the one up to now, if there is one.</summary>
public sealed record PasswordChange(string? Current, string New);

/// <summary>A password that an administrator sets for somebody, who is to change it.</summary>
public sealed record PasswordRequest(string Password);

/// <summary>Asks for a personal token. <paramref name="Days"/> from 1 to 365.</summary>
/// <param name="Scopes">The permissions it is good for; null for all its person may do.</param>
public sealed record TokenRequest(string Name, int Days = 90, IReadOnlyList<string>? Scopes = null);

/// <summary>A personal token's entry; <see cref="Secret"/> is given once, when it is made.</summary>
public sealed record TokenInfo(string Id, string Name, DateTimeOffset Expires, IReadOnlyList<string>? Scopes, string? Secret = null);

/// <summary>What a look at an installation found: what was looked at, good, doubtful or bad, and a sentence.</summary>
public sealed record DiagnosticResult(string What, string Verdict, string Message);

/// <summary>Sets up a new service.</summary>
/// <param name="Code">What it printed when it began.</param>
/// <param name="Person">By what its administrator will sign in.</param>
/// <param name="Title">What the application is called.</param>
/// <param name="Languages">Language tags (BCP 47), the first the application's own.</param>
/// <param name="Currency">ISO 4217.</param>
/// <param name="TimeZone">A zone of the IANA database.</param>
public sealed record SetupRequest(
    string Code,
    string Person,
    string Name,
    string Password,
    string Title,
    IReadOnlyList<string> Languages,
    string Currency,
    string TimeZone
);
