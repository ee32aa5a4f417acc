using System.Text.Json;
using BrightTier.Contracts;
using BrightTier.Service.Auth;
using BrightTier.Service.Broadcast;

namespace BrightTier.Service.Access;

/// <summary>Says that a person is not who they were: the next call is met with what holds now, and every open page comes back.</summary>
public sealed class PersonChanges(KnownCallers recognition, Broadcaster broadcaster)
{
    public void Announce(string person)
    {
        recognition.ForgetPerson(person);
        broadcaster.Publish("person", JsonSerializer.Serialize(new PersonEvent(person), WireJson.Default.PersonEvent), ending: person);
    }
}
